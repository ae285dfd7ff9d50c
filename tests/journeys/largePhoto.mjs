export async function largePhoto() { return '' }
