export async function byKeyboard() { return '' }
