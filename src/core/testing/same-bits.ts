import { expect } from 'vitest'
import type { Learner } from '../learn/learner'

/** Chunks of any size, so that single steps and many change places. */
const CHUNKS = [64, 100, 5, 64, 1, 333, 1000, 7, 100_000]

/**
 * Lets two learners take the same steps, to the end of their runs, and holds one that keeps no workings to the other: what is
 * learned, what came of the steps, and where the streams are.
 */
export function expectSameRun(
  fast: Learner,
  plain: Learner,
  { visits, tables = [] }: { readonly visits: boolean; readonly tables?: readonly string[] },
): void {
  for (const chunk of CHUNKS) {
    expect(fast.advance(chunk)).toBe(plain.advance(chunk))
    expect([...fast.table]).toEqual([...plain.table])
    if (visits) expect([...fast.visits]).toEqual([...plain.visits])
    expect(fast.last).toEqual(plain.last)
    expect(fast.status).toEqual(plain.status)
    expect(fast.policy()).toEqual(plain.policy())
    expect(fast.behaviour()).toEqual(plain.behaviour())
    const [ours, theirs] = [fast.snapshot(), plain.snapshot()]
    expect(ours.numbers).toEqual(theirs.numbers)
    for (const name of ['environment', 'exploration', 'ties', ...tables])
      expect([...ours.arrays[name]]).toEqual([...theirs.arrays[name]])
  }
  expect([...fast.log.returns]).toEqual([...plain.log.returns])
  expect([...fast.log.lengths]).toEqual([...plain.log.lengths])
  expect(fast.working(fast.last.state)).toBeUndefined()
}
