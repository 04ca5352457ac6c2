import { endingsThatPay, successOf } from '../evaluate/rollout'
import type { Compiled } from '../kinds/kinds'
import type { LastStep } from '../learn/learner'
import type { World } from '../learn/world'
import type { Model } from '../model/model'
import { backupForm } from '../plan/backup'

/**
 * Where a curve comes from: the log of episodes; a look at the agent where a point ends; or every single step, which takes
 * several times as long, so that these are only noted for who asks.
 */
type Source = 'log' | 'point' | 'steps'

export interface RunMeasureWords {
  readonly title: string
  /** Along the upright axis, with its unit. */
  readonly axis: string
  readonly hint: string
  readonly source: Source
  /** Whether it is a share, from 0 to 1. */
  readonly share?: boolean
  /** Whether it only means something in the light of all episodes before: it is not smoothed. */
  readonly standsAlone?: boolean
  /** Whether it tells what a covered environment hides. */
  readonly exact?: boolean
}

/** What can be told of the episodes of a run, each once; besides, every measure of the environment by its name. */
export const RUN_MEASURES = {
  return: {
    title: 'Return while learning',
    axis: 'discounted return of an episode',
    hint: 'The discounted return of the episodes, exploring included.',
    source: 'log',
  },
  plain: {
    title: 'Undiscounted return',
    axis: 'sum of the rewards of an episode',
    hint: 'The sum of the rewards of an episode, exploring included.',
    source: 'steps',
  },
  greedy: {
    title: 'Exact value of the learned policy',
    axis: 'exact value of the policy from the start',
    hint: 'What the greedy policy, or the softmax itself, is worth at that moment, without exploring: computed, not sampled.',
    source: 'point',
    standsAlone: true,
    exact: true,
  },
  length: {
    title: 'Length of episodes',
    axis: 'steps of an episode',
    hint: 'How many steps the episodes take.',
    source: 'log',
  },
  success: {
    title: 'Success',
    axis: 'share of episodes that succeed',
    hint: 'Episodes that end by themselves and, where some endings pay more than nothing, in one that does.',
    source: 'steps',
    share: true,
  },
  best: {
    title: 'Share of best pulls',
    axis: 'share of pulls of a best arm',
    hint: 'How often an arm is pulled that pays most in expectation.',
    source: 'steps',
    share: true,
    exact: true,
  },
  regret: {
    title: 'Regret',
    axis: 'regret so far',
    hint: 'How much less the pulls so far pay in expectation than pulling the best arm each time.',
    source: 'steps',
    standsAlone: true,
    exact: true,
  },
  level: {
    title: 'Exploration',
    axis: 'exploration',
    hint: 'The number of the exploration, such as the chance of a random action, at that moment.',
    source: 'point',
    standsAlone: true,
  },
  rate: {
    title: 'Learning rate',
    axis: 'learning rate',
    hint: 'The learning rate at that moment; where each cell has its own, that of the last update.',
    source: 'point',
    standsAlone: true,
  },
} as const satisfies Readonly<Record<string, RunMeasureWords>>
type NamedRunMeasure = keyof typeof RUN_MEASURES
const NAMED = Object.keys(RUN_MEASURES) as NamedRunMeasure[]

/**
 * A measure by its name: one of those above, or `measure` and the name of a measure of the environment.
 * @returns null for what is none
 */
export function runMeasure(id: string): RunMeasureWords | null {
  if (id.startsWith(OWN)) {
    const name = id.slice(OWN.length)
    return {
      title: name.replaceAll('_', ' '),
      axis: `${name.replaceAll('_', ' ')} in an episode`,
      hint: 'A measure of the environment: its total over an episode, expected for each action taken.',
      source: 'steps',
    }
  }
  return NAMED.includes(id as NamedRunMeasure) ? RUN_MEASURES[id as NamedRunMeasure] : null
}
const OWN = 'measure '

/** What can be told of the runs in an environment. */
export function runMeasuresOf(compiled: Compiled): string[] {
  const { model, measures } = compiled
  const bandit = compiled.kind === 'bandit'
  return [
    ...NAMED.filter(
      (id) =>
        (bandit || (id !== 'best' && id !== 'regret')) &&
        (id !== 'success' || successOf(model) !== null) &&
        (id !== 'length' || !bandit),
    ),
    ...measures.map(({ name }) => `${OWN}${name}`),
  ]
}

/** Adds up what the steps of an episode come to, for the measures that need to see every step. */
export class StepWatch {
  /** [watched] of the episode that is going on, or was finished last */
  readonly totals: Float64Array
  private readonly perStep: readonly ((last: LastStep, row: number) => number)[]
  private fresh = true

  /** @param ids  measures whose source is steps */
  constructor(
    private readonly world: World,
    readonly ids: readonly string[],
    compiled: Compiled,
  ) {
    this.perStep = ids.map((id) => stepMeasure(id, world.model, compiled))
    this.totals = new Float64Array(ids.length)
  }

  /** The step that an agent just took. */
  note(last: LastStep): void {
    if (last.row < 0) return
    if (this.fresh) this.totals.fill(0)
    const { world, totals, perStep } = this
    const row = last.row - world.tableStart[world.observation[last.state]] + world.rowStart[last.state]
    for (let i = 0; i < totals.length; i++) totals[i] += perStep[i](last, row)
    this.fresh = last.ended !== 'no'
  }
}

/** What a step adds to a measure. @throws RangeError for a measure that the environment does not have */
function stepMeasure(
  id: string,
  model: Model,
  { measures }: Compiled,
): (last: LastStep, row: number) => number {
  if (id === 'plain') return ({ reward }) => reward
  if (id === 'success') {
    const paying = endingsThatPay(model)
    return ({ ended, reward }) => (ended === 'ending' && (!paying || reward > 0) ? 1 : 0)
  }
  if (id === 'best' || id === 'regret') {
    const { rowReward } = backupForm(model, 1)
    const best = Float64Array.from({ length: model.states }, (_, s) =>
      rowReward
        .subarray(model.rowStart[s], model.rowStart[s + 1])
        .reduce((a, b) => Math.max(a, b), -Infinity),
    )
    return id === 'regret'
      ? ({ state }, row) => best[state] - rowReward[row]
      : ({ state }, row) => (rowReward[row] >= best[state] - 1e-12 ? 1 : 0)
  }
  const own = measures.find(({ name }) => `${OWN}${name}` === id)
  if (!own) throw new RangeError(`there is no measure "${id}"`)
  return (_, row) => own.perRow[row]
}
