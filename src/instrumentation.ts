/** Next.js runs this once when the server starts. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return
  const { startSweeping } = await import('./server/tidy/sweep')
  await startSweeping()
}
