/** Opens the database when the server starts, so that the first page does not wait for it, and goes on with its jobs. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME === 'nodejs') {
    const [{ database }, { jobs }] = await Promise.all([
      import('./server/db/database'),
      import('./server/jobs/jobs'),
    ])
    await database()
    // Nobody waits for them: what keeps them from starting is told to who asks for a job.
    void jobs().catch((error: unknown) => console.error(error))
  }
}
