import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { GridEnvironment } from '../../core/kinds/grid/kind'
import { gridDocument } from '../../core/testing/models'
import { openDatabase } from '../db/database'
import type { OpenDatabase } from '../db/schema'
import {
  bringStragglersAlong,
  createEnvironment,
  createVariant,
  deleteEnvironment,
  getEnvironment,
  restoreEnvironment,
  saveEnvironment,
} from './environments'
import { listEnvironments } from './shelf-list'
import { getVersion, keepVersion, listVersions } from './versions'

let folder: string
let db: OpenDatabase

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'versions-'))
  db = await openDatabase(join(folder, 'test.sqlite'))
})
afterAll(() => rmSync(folder, { recursive: true }))

const hall = (veer: number, floor = ['...', '...']): GridEnvironment => ({
  ...gridDocument(floor, { veer }),
  name: 'Hall',
})
const MINUTE = 60_000
const T = Date.UTC(2030, 0, 1)
const at = (minutes: number) => new Date(T + minutes * MINUTE)

describe('versions', () => {
  it('keep the first state and every one that rested, not each edit of a burst', async () => {
    const { id } = await createEnvironment(db, hall(0), at(0))
    await saveEnvironment(db, id, 1, hall(0.1), at(0.1))
    await saveEnvironment(db, id, 2, hall(0.2), at(0.2))
    await saveEnvironment(db, id, 3, hall(0.3), at(30))
    await saveEnvironment(db, id, 4, hall(0.4), at(30.1))
    await saveEnvironment(db, id, 5, hall(0.4), at(90))
    const kept = await listVersions(db, id)
    const veers = await Promise.all(
      kept.map(async (version) => {
        const record = await getVersion(db, id, version.id)
        return (record!.document as GridEnvironment).grid.veer
      }),
    )
    expect(veers).toEqual([0.2, 0])
    expect(kept.map(({ createdAt }) => createdAt)).toEqual([at(0.2).toISOString(), at(0).toISOString()])
  })

  it('are kept by name on demand, and belong to one environment', async () => {
    const { id } = await createEnvironment(db, hall(0.5), at(0))
    const other = await createEnvironment(db, hall(0), at(0))
    const kept = await keepVersion(db, id, 'before the lesson')
    expect(await listVersions(db, id)).toEqual([kept])
    expect((await getVersion(db, id, kept!.id))?.document).toEqual(hall(0.5))
    expect(await getVersion(db, other.id, kept!.id)).toBeUndefined()
    await deleteEnvironment(db, id)
    expect(await keepVersion(db, id, 'gone')).toBeUndefined()
  })

  it('without a name are thinned out, the oldest first; those with a name stay', async () => {
    const { id } = await createEnvironment(db, hall(0), at(0))
    const first = await keepVersion(db, id, 'mine')
    for (let i = 1; i <= 60; i++) await saveEnvironment(db, id, i, hall(i / 100), at(10 * i))
    const kept = await listVersions(db, id)
    expect(kept.filter(({ name }) => name === null)).toHaveLength(50)
    expect(kept.map((version) => version.id)).toContain(first!.id)
    // The first of them is never thinned out.
    const oldest = await getVersion(db, id, kept.filter(({ name }) => name === null).at(-1)!.id)
    expect(oldest!.document).toEqual(hall(0.01))
  })

  it('lose nothing to a clock that was ahead', async () => {
    const { id } = await createEnvironment(db, hall(0), at(0))
    const ahead = 60 * 24 * 365
    await saveEnvironment(db, id, 1, hall(0.1), at(ahead))
    // The clock was put right: what is overwritten had been there for nobody knows how long.
    for (let i = 0; i < 55; i++) await saveEnvironment(db, id, i + 2, hall((i + 2) / 100), at(10 * (i + 1)))
    const kept = await listVersions(db, id)
    const veers = await Promise.all(
      kept.map(async (each) => ((await getVersion(db, id, each.id))!.document as GridEnvironment).grid.veer),
    )
    expect(veers).toHaveLength(50)
    // Latest in front by when they were kept, not by what the clock said; the first one is still there.
    expect([veers[0], veers.at(-1)]).toEqual([0.55, 0])
  })
})

describe('variants', () => {
  const gridOf = async (id: string) => ((await getEnvironment(db, id))!.document as GridEnvironment).grid

  it('follow their base but for what they say otherwise, through a chain of them', async () => {
    const base = await createEnvironment(db, hall(0))
    const variant = (await createVariant(db, base.id, 'Slippery'))!
    expect(variant).toMatchObject({ base: { id: base.id, name: 'Hall' }, document: { name: 'Slippery' } })
    await saveEnvironment(db, variant.id, 1, { ...hall(0.4), name: 'Slippery' })
    const second = (await createVariant(db, variant.id, 'Slippery with a wall'))!
    const walled = { ...hall(0.4, ['.#.', '...']), name: 'Slippery with a wall' }
    await saveEnvironment(db, second.id, 1, walled)

    const changed = { ...hall(0, ['...', '..#']), name: 'Hall' }
    await saveEnvironment(db, base.id, 1, { ...changed, grid: { ...changed.grid, stepReward: -3 } })
    expect(await gridOf(variant.id)).toMatchObject({ veer: 0.4, stepReward: -3, floor: ['...', '..#'] })
    expect(await gridOf(second.id)).toMatchObject({ veer: 0.4, stepReward: -3, floor: ['.#.', '..#'] })
    // An open page of the variant is told that it only followed: its revision has moved on.
    expect(await saveEnvironment(db, variant.id, 2, hall(0.9))).toMatchObject({
      outcome: 'stale',
      current: { revision: 3 },
      followed: true,
    })
    // One that was opened before somebody changed it is not told so.
    expect(await saveEnvironment(db, variant.id, 1, hall(0.9))).toMatchObject({
      outcome: 'stale',
      followed: false,
    })
    const shelf = await listEnvironments(db)
    expect(shelf.find(({ id }) => id === variant.id)?.base).toEqual({ id: base.id, name: 'Hall' })
  })

  it('stand for themselves when their base is deleted', async () => {
    const base = await createEnvironment(db, hall(0))
    const variant = (await createVariant(db, base.id, 'Alone'))!
    await deleteEnvironment(db, base.id)
    expect(await getEnvironment(db, variant.id)).toMatchObject({ base: null, document: { name: 'Alone' } })
    expect(await createVariant(db, base.id, 'of nothing')).toBeUndefined()
  })

  it('and their base are saved together or not at all', async () => {
    const base = await createEnvironment(db, hall(0))
    const [first, second] = [
      (await createVariant(db, base.id, 'Followed'))!,
      (await createVariant(db, base.id, 'Refused'))!,
    ]
    await db.$client.execute(
      `create trigger refusal before update on environments when new.id = '${second.id}' begin select raise(abort, 'no'); end`,
    )
    await expect(saveEnvironment(db, base.id, 1, { ...hall(0.7), name: 'Hall' })).rejects.toThrow()
    expect(await gridOf(base.id)).toMatchObject({ veer: 0 })
    expect(await gridOf(first.id)).toMatchObject({ veer: 0 })
    expect(await listVersions(db, base.id)).toEqual([])
    await db.$client.execute('drop trigger refusal')
    expect(await saveEnvironment(db, base.id, 1, { ...hall(0.7), name: 'Hall' })).toMatchObject({
      outcome: 'saved',
    })
    expect(await gridOf(second.id)).toMatchObject({ veer: 0.7 })
  })

  it('lose nothing when they and their base are changed at once', async () => {
    const base = await createEnvironment(db, hall(0))
    const variants = await Promise.all(
      Array.from({ length: 5 }, (_, i) => createVariant(db, base.id, `Busy ${i}`)),
    )
    const saves = variants.map((each, i) =>
      saveEnvironment(db, each!.id, 1, { ...hall(0), name: `Busy ${i}`, note: `mine ${i}` }),
    )
    const baseSave = saveEnvironment(db, base.id, 1, { ...hall(0.6), name: 'Hall' })
    const later = Array.from({ length: 3 }, (_, i) => createVariant(db, base.id, `Late ${i}`))
    const outcomes = await Promise.all(saves)
    expect((await baseSave).outcome).toBe('saved')
    const all = [...variants, ...(await Promise.all(later))]
    for (const each of all) expect(await gridOf(each!.id)).toMatchObject({ veer: 0.6 })
    for (const [i, { outcome }] of outcomes.entries()) {
      const note = (await getEnvironment(db, variants[i]!.id))!.document.note
      expect(note).toBe(outcome === 'saved' ? `mine ${i}` : '')
    }
  })

  it('follow what their base became while they lay in the bin', async () => {
    const base = await createEnvironment(db, hall(0), new Date(Date.now() - MINUTE))
    const variant = (await createVariant(db, base.id, 'Binned'))!
    await deleteEnvironment(db, variant.id)
    await saveEnvironment(db, base.id, 1, { ...hall(0.3), name: 'Hall' }, new Date(Date.now() + MINUTE))
    expect(await restoreEnvironment(db, variant.id)).toBe(true)
    expect(await gridOf(variant.id)).toMatchObject({ veer: 0.3 })
  })

  it('that an older version left behind are brought along, and what they were is kept', async () => {
    const base = await createEnvironment(db, { ...hall(0), name: 'Old trunk' }, new Date(Date.now() - MINUTE))
    const [late, same] = [
      (await createVariant(db, base.id, 'Late'))!,
      (await createVariant(db, base.id, 'In time'))!,
    ]
    const changed = { ...hall(0, ['...', '..#']), name: 'Old trunk' }
    await saveEnvironment(db, base.id, 1, changed, new Date(Date.now() + MINUTE))
    // As it was when the process ended between the two.
    await db.$client.execute({
      sql: 'update environments set document = ?, updated_at = ? where id = ?',
      args: [JSON.stringify({ ...hall(0), name: 'Late' }), Date.now(), late.id],
    })
    const before = await getEnvironment(db, same.id)
    expect(await bringStragglersAlong(db)).toEqual(['Late'])
    expect(await gridOf(late.id)).toMatchObject({ floor: ['...', '..#'] })
    expect(await getEnvironment(db, same.id)).toEqual(before)
    const [kept] = await listVersions(db, late.id)
    expect(kept.name).toBe('before following Old trunk')
    expect(await bringStragglersAlong(db)).toEqual([])
  })

  it('stay as they are where following would leave nothing sound', async () => {
    const base = await createEnvironment(db, hall(0))
    const variant = (await createVariant(db, base.id, 'With a door'))!
    const grid = { ...hall(0).grid, endings: [{ at: 'C2', reward: 1, name: '' }] }
    await saveEnvironment(db, variant.id, 1, { ...hall(0), name: 'With a door', grid })
    // The base shrinks: the variant's door would lie outside.
    await saveEnvironment(db, base.id, 1, hall(0, ['..']))
    expect(await gridOf(variant.id)).toEqual(grid)
  })
})
