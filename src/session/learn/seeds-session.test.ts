import { expect, it } from 'vitest'
import { roomsWalk } from '../../core/testing/learning'
import { gridDocument } from '../../core/testing/models'
import { modelFingerprint } from '../../core/model/fingerprint'
import { createSeedsSession } from './seeds-session'
import type { KeptRuns, KeptSeeds } from './kept-run'
import { firstChoice } from '../../core/settings/first-choice'

it('many runs come back after a reload, on the same model only', async () => {
  const model = roomsWalk(5)
  const seeds: KeptSeeds = {
    fingerprint: modelFingerprint(model),
    choice: firstChoice(gridDocument(['..'])),
    size: 2,
    episodes: Float64Array.of(1, 2),
    window: 50,
    runs: [],
  }
  const kept: KeptRuns = {
    read: async (what) => (what === 'seeds' ? seeds : undefined) as never,
    write: async () => {},
    forget: async () => {},
  }
  const other = createSeedsSession('e', kept)
  other.open(roomsWalk(6))
  const again = createSeedsSession('e', kept)
  again.open(roomsWalk(5))
  await new Promise((resolve) => setTimeout(resolve))
  expect(other.store.getState().choice).toBeNull()
  expect(again.store.getState()).toMatchObject({ choice: seeds.choice, size: 2, running: false })
})
