import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rulebookEnvironment } from '../../core/kinds/rulebook/blank'
import { tableEnvironment } from '../../core/kinds/table/blank'
import { gridDocument } from '../../core/testing/models'
import { openDatabase } from '../db/database'
import type { OpenDatabase } from '../db/schema'
import {
  countWaiting,
  createEnvironment,
  createVariant,
  deleteEnvironment,
  duplicateEnvironment,
  getEnvironment,
  renameEnvironment,
  restoreEnvironment,
  saveEnvironment,
  textOfEnvironment,
} from './environments'
import { countShelf, listEnvironments } from './shelf-list'

let folder: string
let db: OpenDatabase

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'shelf-'))
  db = await openDatabase(join(folder, 'nested', 'test.sqlite'))
})
afterAll(() => rmSync(folder, { recursive: true }))

it('puts the demo on an empty shelf, once, and keeps everything over a restart', async () => {
  const shelf = await listEnvironments(db)
  expect(shelf.map(({ name }) => name)).toEqual([
    'Night rounds',
    'The alarm beam',
    'The draughty hall',
    'Which poster draws visitors',
    'Which audio-guide tip pleases',
    'Loans of the season',
    'Evening tickets',
    'Escalator care',
    'Cloakroom queue',
    'The conservator’s humidity',
    'Same-looking doors',
    'The vault dial',
    'A docent’s round',
    'The lamp at the wall',
    'The guide and the kitchen',
    'The trolley on the ramp',
  ])
  expect(shelf.find(({ name }) => name === 'Escalator care')).toMatchObject({
    kind: 'rulebook',
    states: 12,
    actions: 3,
  })
  const [first, ...others] = shelf
  await deleteEnvironment(db, first.id)
  const again = await openDatabase(join(folder, 'nested', 'test.sqlite'))
  expect((await listEnvironments(again)).map(({ id }) => id)).toEqual(others.map(({ id }) => id))
  expect(await restoreEnvironment(again, first.id)).toBe(true)
  expect(await restoreEnvironment(again, first.id)).toBe(false)
})

it('creates, reads, duplicates, renames and lists with sizes', async () => {
  const document = {
    ...gridDocument(['..', '..'], { endings: [{ at: 'B2', reward: 1, name: '' }] }),
    name: 'Small hall',
  }
  const { id } = await createEnvironment(db, document)
  expect((await getEnvironment(db, id))?.document).toEqual(document)
  const copy = (await duplicateEnvironment(db, id))!
  expect(copy.document.name).toBe('Small hall (copy)')
  await renameEnvironment(db, copy.id, 'Other hall')
  expect((await listEnvironments(db))[0]).toMatchObject({ counting: true, states: null })
  await countWaiting(db)
  const listed = await listEnvironments(db)
  expect(listed[0]).toMatchObject({
    id: copy.id,
    name: 'Other hall',
    kind: 'grid',
    states: 4,
    actions: 4,
    revision: 2,
  })
  expect((await getEnvironment(db, copy.id))?.document.name).toBe('Other hall')
})

it('never overwrites what somebody else saved', async () => {
  const { id } = await createEnvironment(db, gridDocument(['...']))
  const mine = { ...gridDocument(['.#.']), name: 'mine' }
  const first = await saveEnvironment(db, id, 1, mine)
  expect(first).toMatchObject({ outcome: 'saved', receipt: { revision: 2 } })
  const late = await saveEnvironment(db, id, 1, gridDocument(['##.']))
  expect(late).toMatchObject({ outcome: 'stale', current: { revision: 2 } })
  expect((await getEnvironment(db, id))?.document).toEqual(mine)
  expect(await saveEnvironment(db, 'nobody', 1, mine)).toEqual({ outcome: 'missing' })
  await deleteEnvironment(db, id)
  expect(await saveEnvironment(db, id, 2, mine)).toEqual({ outcome: 'missing' })
  expect(await getEnvironment(db, id)).toBeUndefined()
})

it('keeps a grid that does not compile yet, and says so', async () => {
  const { id } = await createEnvironment(db, gridDocument(['##']))
  expect((await listEnvironments(db)).find((each) => each.id === id)).toMatchObject({
    states: null,
    actions: null,
  })
})

it('keeps half-written rulebooks, and does not count for long', async () => {
  const count = async (text: string) => {
    const { id } = await createEnvironment(db, rulebookEnvironment('counted', text))
    await countWaiting(db)
    return (await listEnvironments(db)).find((each) => each.id === id)!.states
  }
  expect(await count('state a from 0 to 4\nstart a = 0\naction go\nnext a = min(4, a + 1)')).toBe(5)
  expect(await count('state a from')).toBeNull()
  expect(
    await count('state a from 0 to 90000\nstart a = 0\naction go\nnext a = (a + 1) mod 90001'),
  ).toBeNull()
})

it('lists a large environment without its document, and reads it whole', async () => {
  const rows = Array.from(
    { length: 6000 },
    (_, i) => [`room number ${i}`, 'on', `room number ${i + 1}`, 1, 0] as const,
  )
  const { id } = await createEnvironment(db, tableEnvironment('Six thousand rooms', rows))
  await countWaiting(db)
  expect((await listEnvironments(db)).find((each) => each.id === id)).toMatchObject({
    pictured: false,
    note: '',
    uncounted: true,
    states: 6001,
  })
  expect((await getEnvironment(db, id))?.document).toMatchObject({ table: { transitions: { length: 6000 } } })
})

it('a rulebook whose lines contradict each other is kept to the letter, and has no size', async () => {
  const text =
    'state q list of 2 from 0 to 3\nnext q = shift(q, 1)\nstate q list of 3 from 0 to 3\nstart q = 0\naction go'
  const made = await createEnvironment(db, rulebookEnvironment('Half made', 'state a from 0 to 1'))
  const saved = await saveEnvironment(db, made.id, made.revision, {
    ...rulebookEnvironment('Half made', text),
    discount: 0.5,
  })
  expect(saved.outcome).toBe('saved')
  const again = await getEnvironment(db, made.id)
  expect(again?.document).toMatchObject({ discount: 0.5, rulebook: { text } })
  const listed = (await listEnvironments(db)).find(({ id }) => id === made.id)
  expect(listed).toMatchObject({ states: null, actions: null })
})

describe('a row that cannot be read', () => {
  const damage: Record<string, [column: string, value: (document: string) => string | number, says: RegExp]> =
    {
      'cut JSON': ['document', (text) => text.slice(0, 40), /no JSON/],
      'a newer version': ['document', (text) => text.replace('"version":2', '"version":99'), /version/],
      'a value out of range': [
        'document',
        (text) => text.replace('"discount":0.9', '"discount":7'),
        /discount/,
      ],
      'a kind nobody knows': ['kind', () => 'hologram', /no kind of environment called “hologram”/],
    }
  for (const [name, [column, value, says]] of Object.entries(damage))
    it(`stands on the shelf with its reason, and the rest works: ${name}`, async () => {
      const { id } = await createEnvironment(db, { ...gridDocument(['..']), name: `Damaged: ${name}` })
      const variant = (await createVariant(db, id, `Variant of ${name}`))!
      const text = (await textOfEnvironment(db, id))!
      const broken = value(text)
      await db.$client.execute({
        sql: `update environments set ${column} = ? where id = ?`,
        args: [broken, id],
      })
      const shelf = await listEnvironments(db)
      const item = shelf.find((each) => each.id === id)!
      expect(item.damage).toMatch(says)
      expect(item.name).toBe(`Damaged: ${name}`)
      expect(shelf.filter((each) => each.damage === null).length).toBeGreaterThan(10)
      if (column === 'document') {
        await expect(getEnvironment(db, id)).rejects.toThrow(says)
        expect(await textOfEnvironment(db, id)).toBe(broken)
        // A variant stands for itself, as long as its base cannot be read.
        expect(await getEnvironment(db, variant.id)).toMatchObject({ base: null })
      }
      expect(await deleteEnvironment(db, id)).toBe(true)
    })

  it('and times that are none stop nothing', async () => {
    const { id } = await createEnvironment(db, { ...gridDocument(['..']), name: 'Timeless' })
    await db.$client.execute({ sql: 'update environments set updated_at = ? where id = ?', args: ['x', id] })
    expect((await listEnvironments(db)).find((each) => each.id === id)?.updatedAt).toBe(
      '1970-01-01T00:00:00.000Z',
    )
  })
})

it('finds by part of a name, in letters of any case, and no more than are wanted', async () => {
  for (const name of ['Quiet gallery', 'QUIET stairs', '100 % quiet_ly'])
    await createEnvironment(db, { ...gridDocument(['..']), name })
  const names = async (find: string, limit?: number) =>
    (await listEnvironments(db, { find, limit })).map(({ name }) => name).sort()
  expect(await names('quiet')).toEqual(['100 % quiet_ly', 'QUIET stairs', 'Quiet gallery'])
  expect(await names('% QUIET_')).toEqual(['100 % quiet_ly'])
  expect(await names('quiet', 2)).toHaveLength(2)
  expect(await names('no such')).toEqual([])
  expect(await countShelf(db, 'quiet')).toBe(3)
  expect(await countShelf(db)).toBe((await listEnvironments(db)).length)
})

it('what is listed is read again when it changed, and not before', async () => {
  const { id } = await createEnvironment(db, { ...gridDocument(['..']), name: 'Noted', note: 'one' })
  const note = async () => (await listEnvironments(db)).find((each) => each.id === id)!.note
  expect(await note()).toBe('one')
  await saveEnvironment(db, id, 1, { ...gridDocument(['..']), name: 'Noted', note: 'two' })
  expect(await note()).toBe('two')
})
