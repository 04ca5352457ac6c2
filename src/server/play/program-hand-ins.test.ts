import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { checkExercise } from '../../core/exercise/read-exercise'
import { gridDocument } from '../../core/testing/models'
import { database } from '../db/database'
import type { OpenDatabase } from '../db/schema'
import { getAssignment, handOut, type Assignment } from '../repositories/assignments'
import { createClass, enterClass, getClass } from '../repositories/classes'
import { ownHandIns, triesLeft } from '../repositories/hand-ins'
import type { PlaySession } from './play-sessions'
import { beginHandIn, partPlayed, programHandIn, type ProgramHandIn } from './program-hand-ins'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-programs-'))
beforeAll(() => void (process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

// One step east ends it with 8: that is what is possible, and what an episode comes to that goes there at once.
const exercise = (accepts: readonly string[]) =>
  checkExercise({
    format: 'jaunty-pawn/exercise',
    version: 1,
    name: 'East',
    note: '',
    environment: {
      ...gridDocument(['..'], { endings: [{ at: 'B1', reward: 8, name: '' }] }),
      name: 'Hall',
    },
    levels: [{ name: 'Only', knobs: {}, points: 10 }],
    episodes: 4,
    seeds: { open: 1, hidden: 2 },
    accepts,
  })

let db: OpenDatabase
let classId: string
let player: string
let given: Assignment

async function handedOut(accepts: readonly string[], terms = {}): Promise<Assignment> {
  const all = { tries: 3, closesAt: null, madeUpNames: false, ...terms }
  const id = await handOut(db, classId, JSON.stringify(exercise(accepts)), all)
  return (await getAssignment(db, classId, id))!
}

beforeEach(async () => {
  db = await database()
  classId = await createClass(db, 'Autumn')
  player = (await enterClass(db, (await getClass(db, classId))!.code!, 'Ada'))!
  given = await handedOut(['program'])
})

/** A part is played to its end. @param returns  what its episodes came to */
const played = ({ id }: ProgramHandIn, part: number, returns: readonly number[]) =>
  partPlayed(db, {
    part: { handIn: id, part },
    episodes: { returns: Float64Array.from(returns) },
  } as PlaySession)
const states = async (of = given) => (await ownHandIns(db, of, player)).map(({ state }) => state)

describe('a hand-in that a program plays', () => {
  it('is scored once its last part is played, by what its episodes came to', async () => {
    const made = await beginHandIn(db, given, player)
    expect(made.parts.map(({ seed, level, episodes }) => [seed, level, episodes])).toEqual([
      [1, 0, 4],
      [2, 0, 4],
    ])
    await played(made, 0, [8, 8, 8, 8])
    expect(await states()).toEqual(['playing'])
    // A part that has ended does not end again.
    await played(made, 0, [0, 0, 0, 0])
    await played(made, 1, [8, 8, 8, 0])
    const [own] = await ownHandIns(db, { ...given, revealed: true }, player)
    expect(own.state).toBe('scored')
    expect(own.score!.points).toBeCloseTo(10, 9)
    expect(own.hidden!.levels[0].mean).toBe(6)
    expect(programHandIn(player, made.id)).toBeUndefined()
  })

  it('is given up when another one is begun, and has used up its try', async () => {
    const first = await beginHandIn(db, given, player)
    const second = await beginHandIn(db, given, player)
    expect(await states()).toEqual(['playing', 'abandoned'])
    expect(await triesLeft(db, given, player)).toBe(1)
    expect(programHandIn(player, first.id)).toBeUndefined()
    // What still comes of it changes nothing.
    for (const part of [0, 1]) await played(first, part, [8, 8, 8, 8])
    expect(await states()).toEqual(['playing', 'abandoned'])
    // That of another exercise goes on.
    const other = await handedOut(['program'])
    await beginHandIn(db, other, player)
    expect(programHandIn(player, second.id)).toBe(second)
  })

  it('is nobody else’s, and needs an exercise that takes programs and is open', async () => {
    const made = await beginHandIn(db, given, player)
    expect(programHandIn('somebody', made.id)).toBeUndefined()
    await expect(beginHandIn(db, await handedOut(['policy']), player)).rejects.toThrow(
      'It takes no programs.',
    )
    const closed = await handedOut(['program'], { closesAt: '2020-01-01T00:00:00.000Z' })
    await expect(beginHandIn(db, closed, player)).rejects.toThrow('It is closed.')
    expect(await states(closed)).toEqual(['late'])
  })
})
