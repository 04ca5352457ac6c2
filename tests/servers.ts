import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { request as ask, type IncomingMessage, type RequestOptions } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from '@playwright/test'
import type { EnvironmentDocument } from '../src/core/kinds/kinds'

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
    place?: string,
  ): Promise<ChildProcess> {
    const child = spawn(command, args, {
      cwd: place,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    })
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

  /**
   * The application on a port of its own.
   * @param database  the name of its file in the folder
   * @param place     the folder of the application; this checkout when left out
   */
  server(
    port: number,
    database: string,
    env: Record<string, string> = {},
    place?: string,
  ): Promise<ChildProcess> {
    const script = place === undefined ? 'scripts/start.mjs' : 'scripts/serve.mjs'
    return this.begin(process.execPath, [script], this.settings(port, database, env), /is at http/, place)
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

/** The address of a server of this machine. */
export function at(port: number): string {
  return `http://localhost:${port}`
}

/** Asks for JSON, and expects that it is given. */
export async function json<T>(address: string, method = 'GET', body?: unknown): Promise<T> {
  const answer = await fetch(address, {
    method,
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  })
  expect(answer.ok, await answer.clone().text()).toBe(true)
  return (await answer.json()) as T
}

/** An answer to a request as it stands, without what browsers and fetch put in order. */
export async function raw(
  options: RequestOptions,
  body?: string,
): Promise<{ readonly status: number; readonly text: string; readonly headers: IncomingMessage['headers'] }> {
  return new Promise((resolve, reject) => {
    const request = ask({ host: '127.0.0.1', port: 3210, ...options }, (response) => {
      let text = ''
      response.on('data', (data: Buffer) => (text += String(data)))
      response.on('end', () => resolve({ status: response.statusCode!, text, headers: response.headers }))
    })
    request.once('error', reject)
    request.end(body)
  })
}

/** What saving an environment answers. */
export interface Saved<D = EnvironmentDocument> {
  readonly id: string
  readonly revision: number
  readonly document: D
}

/** The smallest floor there is any walking on. */
export const FLOOR = ['....', '....']
