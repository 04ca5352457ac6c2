/** Opens the database when the server starts, so that the first page does not wait for it. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME === 'nodejs') {
    const { database } = await import('./server/db/database')
    await database()
  }
}
