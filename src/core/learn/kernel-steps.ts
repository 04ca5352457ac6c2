import { REGISTERS } from '../wasm/room'
import type { LastStep } from './learner'

/** Registers by which a learner says where its run stands, and is told where it stands after the steps. */
type RunInt =
  | 'limit'
  | 'until'
  | 'state'
  | 'chosen'
  | 'age'
  | 'exploring'
  | 'episodes'
  | 'lastState'
  | 'lastRow'
  | 'lastNext'
  | 'lastEnded'
  | 'lastExplored'
type RunReal = 'rate' | 'returned' | 'power' | 'lastReward'

/** Where a run stands; learners are this themselves. */
interface Standing {
  state: number
  chosen: number
  age: number
  exploring: number
  rate: number
  returned: number
  power: number
  steps: number
  readonly last: LastStep
  readonly log: { count: number }
}

interface RunRegisters {
  readonly whole: Int32Array
  readonly reals: Float64Array
  readonly int: Readonly<Record<RunInt, number>>
  readonly real: Readonly<Record<RunReal, number>>
}

/** Lets a kernel take steps of a learner: as many as asked for, or until so many episodes are finished. @returns how many */
export function takeSteps(
  learner: Standing,
  kernel: (registers: number) => number,
  { whole, reals, int, real }: RunRegisters,
  limit: number,
  until: number,
): number {
  const { last, log } = learner
  whole[int.limit] = limit
  whole[int.until] = until
  whole[int.state] = learner.state
  whole[int.chosen] = learner.chosen
  whole[int.age] = learner.age
  whole[int.exploring] = learner.exploring
  whole[int.episodes] = log.count
  whole[int.lastState] = last.state
  whole[int.lastRow] = last.row
  whole[int.lastNext] = last.next
  reals[real.rate] = learner.rate
  reals[real.returned] = learner.returned
  reals[real.power] = learner.power
  reals[real.lastReward] = last.reward
  const taken = kernel(REGISTERS)
  learner.state = whole[int.state]
  learner.chosen = whole[int.chosen]
  learner.age = whole[int.age]
  learner.exploring = whole[int.exploring]
  log.count = whole[int.episodes]
  last.state = whole[int.lastState]
  last.row = whole[int.lastRow]
  last.next = whole[int.lastNext]
  last.explored = whole[int.lastExplored] === 1
  last.ended = whole[int.lastEnded] === 1 ? 'ending' : learner.state < 0 ? 'cap' : 'no'
  last.reward = reals[real.lastReward]
  learner.rate = reals[real.rate]
  learner.returned = reals[real.returned]
  learner.power = reals[real.power]
  learner.steps += taken
  return taken
}

/** Registers that lean kernels of agents that draw their actions by chances begin with. The first ones are addresses. */
export const FOLLOWING_INTS = [
  'rows',
  'cells',
  'links',
  'outcomeStart',
  'tableStart',
  'startState',
  'startThreshold',
  'startGuide',
  'chances',
  'values',
  'updates',
  'visits',
  'returns',
  'lengths',
  'environment',
  'exploration',
  'starts',
  'byVisits',
  'counts',
  'cap',
  'limit',
  'until',
  'state',
  'age',
  'episodes',
  'lastState',
  'lastRow',
  'lastNext',
  'lastEnded',
  'ranAway',
  // What a policy that is followed has no use for.
  'chosen',
  'exploring',
  'lastExplored',
] as const
export const FOLLOWING_REALS = [
  'discount',
  'from',
  'slowness',
  'most',
  'rate',
  'returned',
  'power',
  'lastReward',
  'runaway',
] as const
