import type { ClassNow } from './contract/questions'
import { database } from './db/database'
import { followingOf } from './following'
import { forStudents, lastQuestion } from './repositories/questions'

/** How long a question is shown to students, in milliseconds: not to the next class. */
const SHOWN = 12 * 60 * 60 * 1000

type Listener = (now: ClassNow) => void

interface Room {
  version: number
  readonly listeners: Set<Listener>
  /** What goes on, looked up once for all who come. */
  now: Promise<ClassNow> | null
}

// Next.js loads server modules more than once: what one of them announces is heard by listeners of all.
const shared = globalThis as { jauntyPawnRooms?: Map<string, Room> }

function roomOf(classId: string): Room {
  const rooms = (shared.jauntyPawnRooms ??= new Map())
  let room = rooms.get(classId)
  // From the time, so that after another start nothing is older than what was told before.
  if (!room) rooms.set(classId, (room = { version: Date.now(), listeners: new Set(), now: null }))
  return room
}

/** What goes on in a class. */
export function classNow(classId: string): Promise<ClassNow> {
  const room = roomOf(classId)
  room.now ??= look(classId, room).catch((error: unknown) => {
    room.now = null
    throw error
  })
  return room.now
}

async function look(classId: string, room: Room): Promise<ClassNow> {
  // Before it is looked up: what changes meanwhile has a later one.
  const { version } = room
  const db = await database()
  const [asked, following] = await Promise.all([
    lastQuestion(db, classId, new Date(Date.now() - SHOWN)),
    followingOf(db, classId),
  ])
  return { version, question: asked ? forStudents(asked) : null, following }
}

/** Tells all who are in a class that something of it has changed. */
export async function announce(classId: string): Promise<void> {
  const room = roomOf(classId)
  room.version++
  room.now = null
  const now = await classNow(classId)
  for (const listener of room.listeners) listener(now)
}

/** @returns ends it */
export function listen(classId: string, listener: Listener): () => void {
  const { listeners } = roomOf(classId)
  listeners.add(listener)
  return () => void listeners.delete(listener)
}
