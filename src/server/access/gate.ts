import { and, eq, isNull } from 'drizzle-orm'
import { classes, students, type Database } from '../db/schema'
import { keptSetting } from './kept-settings'
import { callerText, type Caller, type Member, type Role } from './caller'
import { countFor } from './limits'
import { whoMayCall } from './routes'
import { generationOf, keptToken, sessionOf } from './sessions'

/** A request, as the gate looks at it. */
export interface Asked {
  readonly method: string
  /** The address as it was sent, without what stands behind the question mark. */
  readonly path: string
  readonly headers: Readonly<Record<string, string | string[] | undefined>>
  /** Where it came from. */
  readonly address: string
}

/** What becomes of a request. */
export type Verdict =
  /** It goes on; `caller` is for the header that says who asks. */
  | { readonly caller: string; readonly owner: boolean }
  /** It is sent elsewhere. */
  | { readonly to: string }
  /** It gets the page that says that nothing is there. */
  | 'missing'
  | { readonly status: number; readonly cause: string; readonly remedy: string; readonly wait?: number }

/** How long it is believed that a student is in a class, in milliseconds. */
const BELIEVED = 1_000
const BELIEVED_AT_MOST = 5_000

// Next.js loads server modules more than once.
const shared = globalThis as {
  jauntyPawnMembers?: Map<string, { readonly until: number; readonly member: Promise<Member | null> }>
}

/**
 * Lets a request through, or not. Whoever may not call something is told that it is not there.
 * @param asks  whether the owner has to say the pass phrase: where others can reach the server
 * @param own   the server asks itself, for an answer that it keeps for the owner
 */
export async function admit(db: Database, asks: boolean, asked: Asked, own = false): Promise<Verdict> {
  if (own) return admitted(['anyone', 'owner'], null)
  const { headers, path, address } = asked
  const may = whoMayCall(path)
  // Where nobody else can reach the server, nothing needs to be looked up for what is the owner’s.
  if (!asks && may.includes('owner')) return admitted(['anyone', 'owner'], null)
  const cookie = textOf(headers.cookie)
  const token = /^Bearer ([\w-]{10,100})$/.exec(textOf(headers.authorization) ?? '')?.[1]
  const owner = token === undefined ? !asks || (await isOwner(db, cookie)) : await isOwnerToken(db, token)
  const student = token === undefined ? await studentOf(db, cookie) : await studentOfToken(db, token)
  const roles: Role[] = ['anyone']
  if (owner) roles.push('owner')
  if (student) roles.push(token === undefined ? 'student' : 'program')

  const wait = owner
    ? 0
    : student
      ? await countFor(token === undefined ? 'student' : 'program', student.id)
      : path.startsWith('/_next/static/')
        ? 0
        : await countFor('stranger', address)
  if (wait) return { status: 429, cause: 'Too many requests.', remedy: `Wait ${wait} s.`, wait }
  if (may.some((role) => roles.includes(role))) return admitted(roles, student)

  if (path.startsWith('/api/') || asked.method !== 'GET')
    return student || owner
      ? { status: 404, cause: 'There is nothing here.', remedy: 'Go back to the page of your class.' }
      : { status: 401, cause: 'You are not signed in.', remedy: 'Sign in at /enter.' }
  if (owner) return { to: '/join' }
  if (!student) return { to: '/enter' }
  // Whether there is a page is told to nobody who may not see it.
  return path === '/' ? { to: '/class' } : 'missing'
}

function admitted(roles: readonly Role[], student: Member | null): Verdict {
  const caller: Caller = { roles, student }
  return { caller: callerText(caller), owner: roles.includes('owner') }
}

async function isOwner(db: Database, cookie: string | undefined): Promise<boolean> {
  const said = await sessionOf(db, cookie, 'owner')
  return said !== null && said === (await generationOf(db))
}

/** Whether a program is the owner’s. */
async function isOwnerToken(db: Database, token: string): Promise<boolean> {
  return (await keptSetting(db, 'owner-token')) === keptToken(token)
}

async function studentOf(db: Database, cookie: string | undefined): Promise<Member | null> {
  const id = await sessionOf(db, cookie, 'student')
  return id === null ? null : believed(`id ${id}`, () => memberWhere(db, eq(students.id, id)))
}

function studentOfToken(db: Database, token: string): Promise<Member | null> {
  const kept = keptToken(token)
  return believed(`token ${kept}`, () => memberWhere(db, eq(students.token, kept)))
}

/** Looks it up, but not for each request of a class. */
function believed(key: string, look: () => Promise<Member | null>): Promise<Member | null> {
  const all = (shared.jauntyPawnMembers ??= new Map())
  const found = all.get(key)
  const now = performance.now()
  if (found && found.until > now) return found.member
  const entry = { until: now + BELIEVED, member: look() }
  all.delete(key)
  all.set(key, entry)
  for (const old of all.keys()) if (all.size > BELIEVED_AT_MOST) all.delete(old)
  return entry.member
}

/** After somebody was put out, or a class closed: nothing that was looked up before is believed. */
export function forgetMembers(): void {
  shared.jauntyPawnMembers?.clear()
}

async function memberWhere(db: Database, condition: ReturnType<typeof eq>): Promise<Member | null> {
  const [row] = await db
    .select({ id: students.id, classId: students.classId })
    .from(students)
    .innerJoin(classes, eq(students.classId, classes.id))
    .where(and(condition, isNull(students.putOutAt), isNull(classes.closedAt)))
  return row ?? null
}

function textOf(header: string | string[] | undefined): string | undefined {
  return Array.isArray(header) ? header.join('; ') : header
}
