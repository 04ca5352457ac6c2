/** Next.js calls this once, when the server begins. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || process.env.NEXT_PHASE === 'phase-production-build') return
  const { startServer } = await import('./server/start')
  await startServer()
}
