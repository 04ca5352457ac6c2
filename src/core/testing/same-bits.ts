import type { Learner } from '../learn/learner'

/** Chunks of any size, so that single steps and many change places. */
const CHUNKS = [64, 100, 5, 64, 1, 333, 1000, 7, 100_000]

/**
 * Lets a learner take steps to the end of its run, and writes down what two that learn the same must have in common: what is
 * learned, what came of the steps, and where the streams are.
 */
export function courseOf(
  learner: Learner,
  { visits, tables = [] }: { readonly visits: boolean; readonly tables?: readonly string[] },
): readonly unknown[] {
  const stations = CHUNKS.map((chunk) => {
    const taken = learner.advance(chunk)
    const { numbers, arrays } = learner.snapshot()
    return {
      taken,
      numbers,
      arrays: ['environment', 'exploration', 'ties', ...tables].map((name) => [...arrays[name]]),
      table: [...learner.table],
      visits: visits ? [...learner.visits] : [],
      last: { ...learner.last },
      status: learner.status,
      policy: [...learner.policy()],
      behaviour: [...learner.behaviour()],
    }
  })
  return [...stations, [...learner.log.returns], [...learner.log.lengths]]
}
