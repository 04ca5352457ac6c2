import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { newExercise } from '../../core/exercise/new-exercise'
import { gridDocument } from '../../core/testing/models'
import type { ExerciseRecord, ExerciseSummary } from '../contract/classes'
import { database } from '../db/database'
import { listBin, takeFromBin } from '../repositories/bin'
import { fromOwner } from '../testing/callers'
import * as exercises from './exercises'

const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-exercises-'))
beforeAll(() => void (process.env.JAUNTY_PAWN_DATABASE = join(folder, 'shelf.sqlite')))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const HALL = { ...gridDocument(['..'], { endings: [{ at: 'B1', reward: 1, name: '' }] }), name: 'Hall' }
const EXERCISE = newExercise(HALL, 77)
const at = 'http://localhost/api/exercises'
const made = async (exercise: unknown = EXERCISE) => {
  const answer = await exercises.create(fromOwner(at, { method: 'POST', body: JSON.stringify(exercise) }))
  return {
    status: answer.status,
    ...((await answer.json()) as { id: string; problems?: { place: string }[] }),
  }
}
const read = async (id: string) =>
  (await (await exercises.read(fromOwner(`${at}/${id}`), id)).json()) as ExerciseRecord
const write = (id: string, revision: number, exercise: unknown) =>
  exercises.write(
    fromOwner(`${at}/${id}`, { method: 'PUT', body: JSON.stringify({ revision, exercise }) }),
    id,
  )
const listed = async () =>
  ((await (await exercises.list(fromOwner(at))).json()) as ExerciseSummary[]).map(({ name, levels }) => [
    name,
    levels,
  ])

it('comes back as it was sent, and is listed with its levels', async () => {
  const { id } = await made()
  expect(await read(id)).toEqual({ id, revision: 1, exercise: JSON.parse(JSON.stringify(EXERCISE)) })
  const levels = ['One', 'Two', 'Three'].map((name) => ({ name, knobs: {}, points: 1 }))
  await made({ ...EXERCISE, name: 'Three of them', levels })
  const list = await listed()
  expect(list).toContainEqual(['Hall', 1])
  expect(list).toContainEqual(['Three of them', 3])
  // Those of the demo are there as well.
  expect(list).toContainEqual(['Open the vault', 3])
})

it('is saved one revision after the other; an old one is stale', async () => {
  const { id } = await made()
  expect(await (await write(id, 1, { ...EXERCISE, name: 'Second' })).json()).toEqual({ revision: 2 })
  expect((await write(id, 1, { ...EXERCISE, name: 'Late' })).status).toBe(409)
  expect((await read(id)).exercise.name).toBe('Second')
  expect((await write('nobody', 1, EXERCISE)).status).toBe(404)
})

it('is refused with the place of what does not fit', async () => {
  for (const [wrong, place] of [
    [{ ...EXERCISE, levels: [] }, 'levels'],
    [{ ...EXERCISE, levels: [{ name: 'x', knobs: { nothing: 1 }, points: 1 }] }, 'levels.0, knob nothing'],
    [{ ...EXERCISE, seeds: { open: -1, hidden: null } }, 'seeds.open'],
    [{ ...EXERCISE, shows: 'all' }, 'shows'],
  ] as const) {
    const { status, problems } = await made(wrong)
    expect([status, problems![0].place]).toEqual([400, place])
  }
})

it('lies in the bin when it is deleted, and comes back', async () => {
  const { id } = await made({ ...EXERCISE, name: 'Gone' })
  await exercises.remove(fromOwner(`${at}/${id}`, { method: 'DELETE' }), id)
  expect(await listed()).not.toContainEqual(['Gone', 1])
  const db = await database()
  expect((await listBin(db)).find((each) => each.id === id)).toMatchObject({ kind: 'exercise', name: 'Gone' })
  await takeFromBin(db, 'exercise', id)
  expect(await listed()).toContainEqual(['Gone', 1])
})
