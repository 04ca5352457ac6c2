import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** Programs that tests start for themselves, in a folder of their own; all are gone after `end`. */
export class Servers {
  readonly folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-servers-'))
  private readonly running = new Set<ChildProcess>()

  /** Starts a program and waits until it says something. */
  async begin(
    command: string,
    args: readonly string[],
    env: Readonly<Record<string, string>>,
    ready: RegExp,
  ): Promise<ChildProcess> {
    const child = spawn(command, args, { env: { ...process.env, ...env }, stdio: ['ignore', 'pipe', 'pipe'] })
    this.running.add(child)
    child.once('exit', () => this.running.delete(child))
    let said = ''
    await new Promise<void>((resolve, reject) => {
      const hear = (data: Buffer) => {
        said += String(data)
        if (ready.test(said)) resolve()
      }
      child.stdout.on('data', hear)
      child.stderr.on('data', hear)
      child.once('error', reject)
      child.once('exit', (code) => reject(new Error(`${command} ended with ${code}: ${said}`)))
    })
    return child
  }

  /** The application on a port of its own. @param database  the name of its file in the folder */
  server(port: number, database: string, env: Record<string, string> = {}): Promise<ChildProcess> {
    return this.begin(
      process.execPath,
      ['scripts/start.mjs'],
      this.settings(port, database, env),
      /is at http/,
    )
  }

  /** Starts the application where it should not begin. @returns what it says, and how it ends */
  async refusal(
    port: number | string,
    database: string,
    env: Record<string, string> = {},
  ): Promise<{ readonly code: number | null; readonly said: string }> {
    const child = spawn(process.execPath, ['scripts/start.mjs'], {
      env: { ...process.env, ...this.settings(port, database, env) },
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    this.running.add(child)
    let said = ''
    child.stdout.on('data', (data: Buffer) => (said += String(data)))
    child.stderr.on('data', (data: Buffer) => (said += String(data)))
    const code = await new Promise<number | null>((resolve) => child.once('close', resolve))
    this.running.delete(child)
    return { code, said }
  }

  /** Ends a program. @returns the code it ends with; null when it was killed */
  async end(child: ChildProcess, signal: NodeJS.Signals = 'SIGKILL'): Promise<number | null> {
    this.running.delete(child)
    const gone = new Promise<number | null>((resolve) => child.once('exit', resolve))
    child.kill(signal)
    return gone
  }

  /** Kills all that run. */
  async endAll(): Promise<void> {
    await Promise.all([...this.running].map((child) => this.end(child)))
  }

  close(): void {
    for (const child of this.running) child.kill('SIGKILL')
    rmSync(this.folder, { recursive: true, force: true })
  }

  private settings(port: number | string, database: string, env: Record<string, string>) {
    return { PORT: String(port), JAUNTY_PAWN_DATABASE: join(this.folder, database), ...env }
  }
}
