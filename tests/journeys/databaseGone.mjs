export async function databaseGone() { return '' }
