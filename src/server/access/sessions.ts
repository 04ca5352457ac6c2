import { createHash, randomBytes } from 'node:crypto'
import { sealData, unsealData } from 'iron-session'
import type { Database } from '../db/schema'
import { keptSetting, settingOr } from './kept-settings'

/** What a browser keeps for us, sealed: one cookie for each way to come in, as an instructor may also try a class. */
export const COOKIES = { owner: 'pawn-owner', student: 'pawn-student' } as const

type Way = keyof typeof COOKIES

/** How long a session lasts, in seconds. */
const LASTS: Readonly<Record<Way, number>> = { owner: 60 * 60 * 24 * 7, student: 60 * 60 * 24 * 180 }

/** Unsealed cookies that are kept, so that each is opened once. */
const KEPT = 2_000

// Next.js loads server modules more than once.
const shared = globalThis as { jauntyPawnUnsealed?: Map<string, Promise<string | null>> }

/** What stands for the pass phrase in a session: sessions end when it is changed. */
export async function generationOf(db: Database): Promise<string> {
  return createHash('sha256')
    .update((await keptSetting(db, 'pass-phrase')) ?? '')
    .digest('base64url')
    .slice(0, 16)
}

/**
 * The Set-Cookie header of a new session.
 * @param who     a student’s id; for the owner the generation of the pass phrase
 * @param secure  whether the browser came by HTTPS
 */
export async function sessionCookie(db: Database, way: Way, who: string, secure: boolean): Promise<string> {
  const sealed = await sealData({ way, who }, { password: await sealOf(db), ttl: LASTS[way] })
  return cookieText(way, sealed, LASTS[way], secure)
}

/** The Set-Cookie header that ends a session. */
export function endedCookie(way: Way, secure: boolean): string {
  return cookieText(way, '', 0, secure)
}

function cookieText(way: Way, value: string, seconds: number, secure: boolean): string {
  return `${COOKIES[way]}=${value}; Path=/; Max-Age=${seconds}; HttpOnly; SameSite=Lax${secure ? '; Secure' : ''}`
}

/** Who a Cookie header says that one is, by a way; null where it says nothing that we sealed. */
export async function sessionOf(db: Database, header: string | undefined, way: Way): Promise<string | null> {
  const sealed = header
    ?.split(/; */)
    .find((each) => each.startsWith(`${COOKIES[way]}=`))
    ?.slice(COOKIES[way].length + 1)
  if (!sealed || sealed.length > 1000) return null
  const unsealed = (shared.jauntyPawnUnsealed ??= new Map())
  const key = `${way} ${sealed}`
  const found = unsealed.get(key)
  if (found) return found
  const opened = unseal(db, sealed, way)
  unsealed.set(key, opened)
  for (const old of unsealed.keys()) if (unsealed.size > KEPT) unsealed.delete(old)
  return opened
}

async function unseal(db: Database, sealed: string, way: Way): Promise<string | null> {
  try {
    const said = await unsealData<{ way?: Way; who?: string }>(sealed, {
      password: await sealOf(db),
      ttl: LASTS[way],
    })
    return said.way === way && said.who ? said.who : null
  } catch {
    return null
  }
}

function sealOf(db: Database): Promise<string> {
  return settingOr(db, 'seal', () => randomBytes(32).toString('base64url'))
}

/** A new token for a program, and what is kept of it. */
export function newToken(): { readonly token: string; readonly kept: string } {
  const token = randomBytes(24).toString('base64url')
  return { token, kept: keptToken(token) }
}

export function keptToken(token: string): string {
  return createHash('sha256').update(token).digest('base64url')
}
