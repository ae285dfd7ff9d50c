export async function badFiles() { return '' }
