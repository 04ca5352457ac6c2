import { randomUUID } from 'node:crypto'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import Database from 'libsql'

// A stand-in for a server of the libSQL protocol (Hrana over HTTP, version 2, JSON), for tests: a real SQLite file, a
// connection for each stream.

type Value =
  | { readonly type: 'null' }
  | { readonly type: 'integer' | 'text'; readonly value: string }
  | { readonly type: 'float'; readonly value: number }
interface Statement {
  readonly sql?: string
  readonly sql_id?: number
  readonly args?: readonly Value[]
  readonly named_args?: readonly { readonly name: string; readonly value: Value }[]
}
type Condition =
  | { readonly type: 'ok'; readonly step: number }
  | { readonly type: 'error'; readonly step: number }
  | { readonly type: 'not'; readonly cond: Condition }
  | { readonly type: 'and' | 'or'; readonly conds: readonly Condition[] }
  | { readonly type: 'is_autocommit' }
interface Step {
  readonly condition?: Condition
  readonly stmt: Statement
}
interface StreamRequest {
  readonly type: string
  readonly sql?: string
  readonly sql_id?: number
  readonly stmt?: Statement
  readonly batch?: { readonly steps: readonly Step[] }
}

/** A stream: a connection with the statements that were stored in it. */
class Stream {
  private readonly connection: Database.Database
  private readonly stored = new Map<number, string>()

  constructor(file: string) {
    this.connection = new Database(file)
  }

  answer(request: StreamRequest): object {
    if (request.type === 'close') {
      this.connection.close()
      return { type: 'close' }
    }
    if (request.type === 'store_sql') this.stored.set(request.sql_id!, request.sql!)
    if (request.type === 'close_sql') this.stored.delete(request.sql_id!)
    if (request.type === 'sequence') this.connection.exec(this.sqlOf(request))
    if (request.type === 'get_autocommit')
      return { type: 'get_autocommit', is_autocommit: !this.connection.inTransaction }
    if (request.type === 'execute') return { type: 'execute', result: this.execute(request.stmt!) }
    if (request.type === 'batch') return { type: 'batch', result: this.batch(request.batch!.steps) }
    return { type: request.type }
  }

  private sqlOf({ sql, sql_id }: Statement): string {
    return sql ?? this.stored.get(sql_id!)!
  }

  private execute(statement: Statement): object {
    const prepared = this.connection.prepare(this.sqlOf(statement))
    prepared.safeIntegers(true)
    const named = statement.named_args?.length
      ? [
          Object.fromEntries(
            statement.named_args.map(({ name, value }) => [name.replace(/^[:@$]/, ''), read(value)]),
          ),
        ]
      : []
    const values = [...(statement.args ?? []).map(read), ...named]
    let returns = true
    try {
      prepared.raw(true)
    } catch {
      returns = false
    }
    if (!returns) {
      const { changes, lastInsertRowid } = prepared.run(...values)
      return { cols: [], rows: [], affected_row_count: changes, last_insert_rowid: String(lastInsertRowid) }
    }
    const cols = prepared.columns().map(({ name, type }) => ({ name, decltype: type ?? undefined }))
    const rows = (prepared.all(...values) as unknown[][]).map((row) => row.map(written))
    return { cols, rows, affected_row_count: 0 }
  }

  private batch(steps: readonly Step[]): object {
    const results: (object | null)[] = []
    const errors: (object | null)[] = []
    const holds = (condition: Condition): boolean => {
      if (condition.type === 'ok') return results[condition.step] !== null
      if (condition.type === 'error') return errors[condition.step] !== null
      if (condition.type === 'not') return !holds(condition.cond)
      if (condition.type === 'is_autocommit') return !this.connection.inTransaction
      if (condition.type === 'and') return condition.conds.every(holds)
      return condition.conds.some(holds)
    }
    for (const { condition, stmt } of steps) {
      let [result, error]: [object | null, object | null] = [null, null]
      if (!condition || holds(condition))
        try {
          result = this.execute(stmt)
        } catch (thrown) {
          error = errorOf(thrown)
        }
      results.push(result)
      errors.push(error)
    }
    return { step_results: results, step_errors: errors }
  }
}

function read(value: Value): unknown {
  if (value.type === 'null') return null
  return value.type === 'integer' ? BigInt(value.value) : value.value
}

function written(value: unknown): Value {
  if (value === null || value === undefined) return { type: 'null' }
  if (typeof value === 'bigint') return { type: 'integer', value: String(value) }
  return typeof value === 'number' ? { type: 'float', value } : { type: 'text', value: String(value) }
}

function errorOf(error: unknown): object {
  const { message, code } = error as Error & { code?: string }
  return { message, code: code ?? 'SQLITE_ERROR' }
}

/** @param token  what clients must show @returns the server and its address */
export async function serveDatabase(
  file: string,
  token: string,
): Promise<{ readonly server: Server; readonly address: string }> {
  const streams = new Map<string, Stream>()
  const first = new Database(file)
  first.pragma('journal_mode = WAL')
  const server = createServer((request, response) => {
    const reply = (status: number, body: object) => {
      response.writeHead(status, { 'content-type': 'application/json' })
      response.end(JSON.stringify(body))
    }
    if (request.url !== '/v2/pipeline') return reply(404, { message: 'no such version' })
    if (request.headers.authorization !== `Bearer ${token}`) return reply(401, { message: 'wrong token' })
    const parts: Buffer[] = []
    request.on('data', (part: Buffer) => parts.push(part))
    request.on('end', () => {
      const { baton, requests } = JSON.parse(String(Buffer.concat(parts))) as {
        baton?: string
        requests: StreamRequest[]
      }
      const stream = (baton && streams.get(baton)) || new Stream(file)
      streams.delete(baton ?? '')
      const results = requests.map((each) => {
        try {
          return { type: 'ok', response: stream.answer(each) }
        } catch (error) {
          return { type: 'error', error: errorOf(error) }
        }
      })
      const next = requests.some(({ type }) => type === 'close') ? null : randomUUID()
      if (next) streams.set(next, stream)
      reply(200, { baton: next, base_url: null, results })
    })
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return { server, address: `http://127.0.0.1:${(server.address() as AddressInfo).port}` }
}
