import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Papa from 'papaparse'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Exercise } from '../../core/exercise/exercise'
import { readHandIn } from '../../core/exercise/read-hand-in'
import { checkExercise } from '../../core/exercise/read-exercise'
import { scoreHandIn } from '../../core/exercise/score'
import { gridDocument } from '../../core/testing/models'
import type { AssignmentTerms, OwnHandIn, Standings, StudentExercise } from '../contract/classes'
import { countFor } from '../access/limits'
import { database } from '../db/database'
import { enterClass, getClass } from '../repositories/classes'
import { answerQuestion, askClass } from '../repositories/questions'
import { allScored } from '../scoring'
import { fromOwner, fromStudent } from '../testing/callers'
import * as classes from './classes'
import * as exercises from './exercises'
import * as student from './student'

const HIDDEN = 987_654_321
// A draught on the long way: what is best depends on nothing but the map, and every number below is seen in it.
const EXERCISE: Exercise = checkExercise({
  format: 'jaunty-pawn/exercise',
  version: 1,
  name: 'To the door',
  note: 'Find the door.',
  environment: {
    ...gridDocument(['...', '.#.', '...'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'C3', reward: 7.625, name: 'the secret door' }],
      veer: 0.3,
    }),
    name: 'Hall with a door',
  },
  levels: [{ name: 'Only', knobs: {}, points: 10 }],
  episodes: 400,
  seeds: { open: 1, hidden: HIDDEN },
})

const GOOD = { A1: 'east', B1: 'east', C1: 'south', A2: 'south', C2: 'south', A3: 'east', B3: 'east' }
const BAD = { ...GOOD, A1: 'north' }
const json = (policy: object) => JSON.stringify({ policy })

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-class-'))
beforeAll(() => void (process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const at = 'http://localhost/api'
const asked = async <T>(answer: Promise<Response>): Promise<T> => {
  const response = await answer
  const text = await response.text()
  if (!response.ok) throw Object.assign(new Error(text), { status: response.status })
  return (text ? JSON.parse(text) : undefined) as T
}
const post = (path: string, body: unknown, method = 'POST') =>
  fromOwner(`${at}${path}`, { method, body: JSON.stringify(body) })

/** A class with the exercise handed out to it. */
async function classWith(terms: Partial<AssignmentTerms> = {}, exercise: unknown = EXERCISE) {
  const { id } = await asked<{ id: string }>(classes.create(post('/classes', { name: 'Autumn' })))
  const made = await asked<{ id: string }>(exercises.create(post('/exercises', exercise)))
  const all = { tries: null, closesAt: null, madeUpNames: false, ...terms, exercise: made.id }
  const given = await asked<{ id: string }>(
    classes.createAssignment(post(`/classes/${id}/assignments`, all), id),
  )
  return { id, assignment: given.id }
}

async function enters(classId: string, name: string): Promise<string> {
  const db = await database()
  return (await enterClass(db, (await getClass(db, classId))!.code!, name))!
}

/** What a student does in a class. */
function as(who: string, classId: string, assignment: string) {
  const address = `${at}/class/exercises/${assignment}`
  const call = (path = '', init?: RequestInit) => fromStudent(who, classId, `${address}${path}`, init)
  return {
    text: async () => (await student.readExercise(call(), assignment)).text(),
    read: () => asked<StudentExercise>(student.readExercise(call(), assignment)),
    handIn: (body: string) =>
      asked<{ id: string; state: string }>(
        student.create(call('/hand-ins', { method: 'POST', body }), assignment),
      ),
    standings: () => asked<Standings>(student.readStandings(call('/standings'), assignment)),
    last: async (): Promise<OwnHandIn> => {
      await allScored()
      return (await asked<StudentExercise>(student.readExercise(call(), assignment))).handIns[0]
    },
  }
}

describe('an exercise that is handed out', () => {
  it('shows students where an agent can be and what it can do, and nothing that is to be found out', async () => {
    const { id, assignment } = await classWith()
    const ada = as(await enters(id, 'Ada'), id, assignment)
    const { seen, hidden, accepts, left } = await ada.read()
    expect(seen!.states.map(({ states }) => states[0])).toEqual(['A1', 'B1', 'C1', 'A2', 'C2', 'A3', 'B3'])
    expect(seen!.board).toEqual({ columns: 3, rows: 3, places: [0, 1, 2, 3, 5, 6, 7] })
    expect([hidden, left]).toEqual([true, null])
    expect(accepts).toContain('policy')
    await ada.handIn(json(GOOD))
    await ada.last()
    const sent = await ada.text()
    for (const secret of [String(HIDDEN), '7.625', '0.3', 'secret door', 'environment', 'content'])
      expect(sent).not.toContain(secret)
  })

  it('is scored as the exercise says, with the hidden seed for nobody but the instructor', async () => {
    const { id, assignment } = await classWith()
    const ada = as(await enters(id, 'Ada'), id, assignment)
    await ada.handIn(json(GOOD))
    const { score, walks, hidden, state } = await ada.last()
    const handIn = readHandIn(new TextEncoder().encode(json(GOOD)))
    expect(state).toBe('scored')
    expect(score).toEqual(JSON.parse(JSON.stringify(scoreHandIn(EXERCISE, handIn, 1))))
    expect(hidden).toBeNull()
    // The worst episode is the one its score names, and its rewards are those of the map.
    const [walk] = walks
    expect(walk.episode).toBe(score!.levels[0].worst)
    for (const { state: from, reward } of walk.steps.slice(0, -1)) expect([from, reward]).toEqual([from, -1])
    expect(walk.ended).toBe(true)
    expect(walk.steps.at(-1)!.reward).toBe(7.625 - 1)
    expect(walk.last).toBe('C3')

    await asked(
      classes.changeOfAssignment(
        post(`/classes/${id}/assignments/${assignment}`, { change: 'reveal' }, 'PATCH'),
        id,
        assignment,
      ),
    )
    const revealed = await ada.last()
    expect(revealed.hidden).toEqual(JSON.parse(JSON.stringify(scoreHandIn(EXERCISE, handIn, HIDDEN))))
    expect(await ada.text()).toContain(String(HIDDEN))
  })

  it('ranks the best hand-in of each, ties alike, and by the hidden seed once that is revealed', async () => {
    const { id, assignment } = await classWith({ madeUpNames: true })
    const names = ['Ada', 'Bo', 'Cy']
    const who = await Promise.all(names.map((name) => enters(id, name)))
    const [ada, bo, cy] = who.map((each) => as(each, id, assignment))
    await ada.handIn(json(BAD))
    await ada.handIn(json(GOOD))
    await bo.handIn(json(GOOD))
    await cy.handIn(json(BAD))
    await allScored()
    const { standings } = await bo.standings()
    expect(standings.map(({ rank, handIns }) => [rank, handIns])).toEqual([
      [1, 2],
      [1, 1],
      [3, 1],
    ])
    expect(standings.map(({ own }) => own)).toEqual([false, true, false])
    expect(standings[0].points).toBe(standings[1].points)
    // Under names that are not theirs.
    const told = JSON.stringify(standings)
    for (const secret of [...names, ...who]) expect(told).not.toContain(`"${secret}"`)
    expect(standings.every(({ hidden }) => hidden === null)).toBe(true)
    await asked(
      classes.changeOfAssignment(
        post(`/classes/${id}/assignments/${assignment}`, { change: 'reveal' }, 'PATCH'),
        id,
        assignment,
      ),
    )
    const after = (await bo.standings()).standings
    const wanted = scoreHandIn(EXERCISE, readHandIn(new TextEncoder().encode(json(GOOD))), HIDDEN).points
    expect(after.slice(0, 2).map(({ hidden }) => hidden)).toEqual([wanted, wanted])
  })

  it('is not scored for longer than ten minutes in an hour, by what scoring took', async () => {
    const { id, assignment } = await classWith()
    const [who, other] = [await enters(id, 'Ada'), await enters(id, 'Bo')]
    const [ada, bo] = [as(who, id, assignment), as(other, id, assignment)]
    // Of the ten minutes all but a millisecond: scoring one hand-in takes more.
    await countFor('scoring', who, 599_999)
    expect((await ada.handIn(json(GOOD))).state).toBe('waiting')
    await allScored()
    await expect(ada.handIn(json(GOOD))).rejects.toThrow('took ten minutes this hour')
    expect((await bo.handIn(json(GOOD))).state).toBe('waiting')
    await allScored()
  })

  it('answers clearly to what does not fit, is too much, or comes late, and keeps it apart', async () => {
    const { id, assignment } = await classWith({ tries: 2 })
    const ada = as(await enters(id, 'Ada'), id, assignment)
    await expect(ada.handIn(' ')).rejects.toThrow('It is empty.')
    await expect(ada.handIn('x'.repeat(5_100_000))).rejects.toThrow('It is larger than')
    await ada.handIn(json({ ...GOOD, A1: 'fly', B1: undefined }))
    const refused = await ada.last()
    expect(refused.state).toBe('refused')
    expect(refused.problems.map(({ place }) => place)).toEqual([
      'Only, policy, state "A1"',
      'Only, policy, state "A1"',
      'Only, policy, state "B1"',
    ])
    // What could not be scored uses up no try.
    for (const left of [1, 0]) {
      await ada.handIn(json(GOOD))
      await allScored()
      expect((await ada.read()).left).toBe(left)
    }
    await expect(ada.handIn(json(GOOD))).rejects.toThrow('You have used all 2 tries.')

    const closed = await classWith({ closesAt: '2020-01-01T00:00:00.000Z' })
    const late = as(await enters(closed.id, 'Bo'), closed.id, closed.assignment)
    expect((await late.handIn(json(GOOD))).state).toBe('late')
    expect(await late.last()).toMatchObject({ state: 'late', score: null })
    expect((await late.standings()).standings).toEqual([])
  })

  it('is not there for other classes, and not once it is withdrawn', async () => {
    const { id, assignment } = await classWith()
    const other = await classWith()
    const bo = as(await enters(other.id, 'Bo'), other.id, assignment)
    for (const way of [bo.read(), bo.handIn(json(GOOD)), bo.standings()])
      await expect(way).rejects.toMatchObject({ status: 404 })
    const ada = as(await enters(id, 'Ada'), id, assignment)
    await ada.read()
    const path = `/classes/${id}/assignments/${assignment}`
    await asked(classes.changeOfAssignment(post(path, { change: 'withdraw' }, 'PATCH'), id, assignment))
    await expect(ada.read()).rejects.toMatchObject({ status: 404 })
  })

  it('is taken away as CSV in which nothing is a formula', async () => {
    const { id, assignment } = await classWith()
    const ada = as(await enters(id, '=HYPERLINK("x")'), id, assignment)
    await ada.handIn(json(GOOD))
    await ada.handIn('=1+1')
    await allScored()
    const path = `${at}/classes/${id}/assignments/${assignment}/hand-ins`
    const csv = await (await classes.handInsCsv(fromOwner(path), id, assignment)).text()
    const { data } = Papa.parse<Record<string, string>>(csv, { header: true, skipEmptyLines: true })
    expect(data.map(({ state }) => state)).toEqual(['scored', 'refused'])
    expect(Number(data[0].points)).toBeGreaterThan(9)
    expect(Number(data[0]['points on the hidden seed'])).toBeGreaterThan(9)
    for (const row of Papa.parse<string[]>(csv).data)
      for (const cell of row) expect(cell).not.toMatch(/^[=+@]/)
  })

  it('is hidden as far as it says', async () => {
    const shown = async (shows: string) => {
      const { id, assignment } = await classWith({}, { ...EXERCISE, shows })
      const who = await enters(id, 'Ada')
      const { seen } = await as(who, id, assignment).read()
      const picture = await student.picture(
        fromStudent(who, id, `${at}/class/exercises/${assignment}/picture`),
        assignment,
        () => '<svg/>',
      )
      return [seen!.board !== null, seen!.text !== null, picture.status]
    }
    expect(await shown('names')).toEqual([false, false, 404])
    expect(await shown('board')).toEqual([true, false, 200])
    expect(await shown('rules')).toEqual([true, true, 200])
  })
})

it('what was changed is written down, with who did it', async () => {
  const { id, assignment } = await classWith()
  const who = await enters(id, 'Ada')
  await as(who, id, assignment).handIn(json(GOOD))
  await allScored()
  const lines = await asked<{ who: string; what: string }[]>(
    classes.readAudit(fromOwner(`${at}/classes/${id}/audit`), id),
  )
  expect(lines.map((line) => [line.who, line.what]).reverse()).toEqual([
    ['owner', 'Opened the class “Autumn”.'],
    ['owner', 'Handed out “To the door”.'],
    [who, 'Entered the class as “Ada”.'],
    [who, 'Handed in for “To the door”.'],
  ])
})

it('a class is deleted with all that is kept of its students, and no other', async () => {
  const [gone, kept] = [await classWith(), await classWith()]
  for (const { id, assignment } of [gone, kept]) {
    const who = await enters(id, 'Ada')
    await as(who, id, assignment).handIn(json(GOOD))
    const db = await database()
    await answerQuestion(db, id, await askClass(db, id, { kind: 'number', text: 'How far?' }, null), who, 3)
  }
  await allScored()
  const rows = async () => {
    const { $client } = await database()
    const tables = ['classes', 'students', 'assignments', 'hand_ins', 'questions', 'answers', 'audit']
    return Promise.all(
      tables.map(async (table) =>
        Number((await $client.execute(`select count(*) as n from ${table}`)).rows[0].n),
      ),
    )
  }
  const before = await rows()
  await asked(classes.remove(fromOwner(`${at}/classes/${gone.id}`, { method: 'DELETE' }), gone.id))
  // Of it: the class, a student, an exercise, a hand-in, a question, an answer, and five lines of what was changed.
  expect((await rows()).map((number, i) => before[i] - number)).toEqual([1, 1, 1, 1, 1, 1, 5])
  const again = classes.remove(fromOwner(`${at}/classes/${gone.id}`, { method: 'DELETE' }), gone.id)
  await expect(asked(again)).rejects.toMatchObject({ status: 404 })
})
