import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { newExercise } from '../../core/exercise/new-exercise'
import type { LevelScore, Score } from '../../core/exercise/score'
import { gridDocument } from '../../core/testing/models'
import { database } from '../db/database'
import type { OpenDatabase } from '../db/schema'
import { getAssignment, handOut, type Assignment } from './assignments'
import { createClass, enterClass, getClass } from './classes'
import { bestPoints, handIn, ownHandIns, settleHandIn, standingsOf, triesLeft, waitingOf } from './hand-ins'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-hand-ins-'))
beforeAll(() => void (process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const HALL = { ...gridDocument(['..'], { endings: [{ at: 'B1', reward: 1, name: '' }] }), name: 'Hall' }
const PROBLEMS = [{ place: 'policy', cause: 'It names no state.', remedy: 'Name one.' }]

let db: OpenDatabase
let classId: string
let given: Assignment

async function handedOut(terms = {}): Promise<Assignment> {
  const all = { tries: null, closesAt: null, madeUpNames: false, ...terms }
  const id = await handOut(db, classId, JSON.stringify(newExercise(HALL, 7)), all)
  return (await getAssignment(db, classId, id))!
}
const enters = async (name: string) => (await enterClass(db, (await getClass(db, classId))!.code!, name))!

beforeEach(async () => {
  db = await database()
  classId = await createClass(db, 'Autumn')
  given = await handedOut()
})

/** A score of two levels. */
function score(points: number): Score {
  const levels = [points / 4, (3 * points) / 4].map((part) => ({ points: part }) as LevelScore)
  return { seed: 1, levels, points, of: 100 }
}

/** Hands in and scores it. @param at  milliseconds of a clock of the test */
async function scored(student: string, points: number, hidden: number | null = null, at = Date.now()) {
  const made = await handIn(db, given, student, '{}', 'waiting', new Date(at))
  await settleHandIn(db, made.id, {
    open: score(points),
    walks: [],
    hidden: hidden === null ? null : score(hidden),
  })
  return made.id
}

describe('standings', () => {
  it('have the best hand-in of each, and who was first in front of who came to as much later', async () => {
    const [ada, bo, cy] = [await enters('Ada'), await enters('Bo'), await enters('Cy')]
    await scored(bo, 40, null, 1_000)
    await scored(ada, 70, null, 2_000)
    await scored(ada, 20, null, 3_000)
    await scored(bo, 70, null, 4_000)
    await scored(cy, 10, null, 5_000)
    // What waits or was refused is in none.
    await handIn(db, given, cy, '{}')
    await settleHandIn(db, (await handIn(db, given, cy, '{}')).id, { problems: PROBLEMS })
    const lines = await standingsOf(db, given)
    expect(lines.map(({ rank, name, points, handIns }) => [rank, name, points, handIns])).toEqual([
      [1, 'Ada', 70, 2],
      [1, 'Bo', 70, 2],
      [3, 'Cy', 10, 1],
    ])
    expect(lines[0].levels).toEqual([17.5, 52.5])
    expect(await waitingOf(db, given.id)).toBe(1)
  })

  it('are ranked by the hidden seed once it is revealed, by the hand-in that was best on the open one', async () => {
    const [ada, bo] = [await enters('Ada'), await enters('Bo')]
    await scored(ada, 80, 30)
    await scored(ada, 60, 90)
    await scored(bo, 50, 45)
    expect((await standingsOf(db, given)).map(({ name, hidden }) => [name, hidden])).toEqual([
      ['Ada', null],
      ['Bo', null],
    ])
    const revealed = await standingsOf(db, { ...given, revealed: true })
    expect(revealed.map(({ rank, name, points, hidden }) => [rank, name, points, hidden])).toEqual([
      [1, 'Bo', 50, 45],
      [2, 'Ada', 80, 30],
    ])
  })

  it('have as many better ones above each rank as it says, whatever was handed in', async () => {
    const students = [await enters('A'), await enters('B'), await enters('C'), await enters('D')]
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ who: fc.nat(3), points: fc.integer({ min: 0, max: 5 }) }), { maxLength: 12 }),
        async (all) => {
          given = await handedOut({ madeUpNames: true })
          for (const [at, { who, points }] of all.entries()) await scored(students[who], points, null, at)
          const lines = await standingsOf(db, given)
          const best = new Map<string, number>()
          for (const { who, points } of all)
            best.set(students[who], Math.max(points, best.get(students[who]) ?? 0))
          expect(new Map(lines.map((line) => [line.studentId, line.points]))).toEqual(best)
          for (const { rank, points } of lines)
            expect(rank).toBe(1 + [...best.values()].filter((each) => each > points).length)
          expect(lines.map(({ points }) => points)).toEqual([...best.values()].sort((x, y) => y - x))
          expect(lines.every(({ name }) => name.length > 1)).toBe(true)
        },
      ),
      { numRuns: 15 },
    )
  })
})

describe('a hand-in', () => {
  it('uses up a try, but not where it is refused', async () => {
    const ada = await enters('Ada')
    given = await handedOut({ tries: 2 })
    await settleHandIn(db, (await handIn(db, given, ada, 'nonsense')).id, { problems: PROBLEMS })
    expect(await triesLeft(db, given, ada)).toBe(2)
    await scored(ada, 5)
    await handIn(db, given, ada, '{}')
    expect(await triesLeft(db, given, ada)).toBe(0)
    await expect(handIn(db, given, ada, '{}')).rejects.toThrow('You have used all 2 tries.')
    // Those of others are their own.
    expect(await triesLeft(db, given, await enters('Bo'))).toBe(2)
    expect(await triesLeft(db, await handedOut(), ada)).toBeNull()
  })

  it('waits with no more than two others of the same student', async () => {
    const [ada, bo] = [await enters('Ada'), await enters('Bo')]
    for (let i = 0; i < 3; i++) await handIn(db, given, ada, '{}')
    await expect(handIn(db, given, ada, '{}')).rejects.toThrow('3 of yours still wait to be scored.')
    expect((await handIn(db, given, bo, '{}')).state).toBe('waiting')
  })

  it('has room up to 25 MB with all before it', async () => {
    const ada = await enters('Ada')
    for (let i = 0; i < 5; i++)
      await settleHandIn(db, (await handIn(db, given, ada, 'x'.repeat(4_900_000))).id, {
        problems: PROBLEMS,
      })
    await expect(handIn(db, given, ada, 'x'.repeat(600_000))).rejects.toThrow('more than 25 MB')
    expect((await handIn(db, given, ada, 'x'.repeat(400_000))).state).toBe('waiting')
  })

  it('that comes late is kept apart, and can come as often as one likes', async () => {
    const ada = await enters('Ada')
    given = await handedOut({ tries: 1, closesAt: '2026-01-01T10:00:00.000Z' })
    const at = (time: string) => handIn(db, given, ada, '{}', 'waiting', new Date(time))
    expect((await at('2026-01-01T10:00:00.000Z')).state).toBe('waiting')
    expect((await at('2026-01-01T10:00:00.001Z')).state).toBe('late')
    expect((await at('2026-01-02T10:00:00.000Z')).state).toBe('late')
    expect(await waitingOf(db, given.id)).toBe(1)
  })

  it('is settled once: what comes after that changes nothing', async () => {
    const ada = await enters('Ada')
    const id = await scored(ada, 30)
    await settleHandIn(db, id, { problems: PROBLEMS })
    const [own] = await ownHandIns(db, given, ada)
    expect([own.state, own.score!.points, own.problems]).toEqual(['scored', 30, []])
    expect(await bestPoints(db, ada)).toEqual(new Map([[given.id, 30]]))
  })

  it('tells of hidden seeds only once they are revealed', async () => {
    const ada = await enters('Ada')
    await scored(ada, 30, 12)
    expect((await ownHandIns(db, given, ada))[0].hidden).toBeNull()
    expect((await ownHandIns(db, { ...given, revealed: true }, ada))[0].hidden!.points).toBe(12)
  })
})
