import { policyGradient, softmaxGradient } from '../plan/policy-gradient'
import { RandomStream } from '../random/generator'
import { draw } from './explore/actor'
import type { EpisodeTable } from './episode-table'
import type { World } from './world'

/** How a sampled gradient lies to the exact one. */
export interface GradientMatch {
  /** Between them, in degrees, 0 to 180; null where one of them is 0. */
  readonly angle: number | null
  /** The length of the sampled one over that of the exact one; null where that is 0. */
  readonly ratio: number | null
}

export function matchGradients(sampled: Float64Array, exact: Float64Array): GradientMatch {
  let inner = 0
  let squares = 0
  let exactSquares = 0
  for (let r = 0; r < exact.length; r++) {
    inner += sampled[r] * exact[r]
    squares += sampled[r] * sampled[r]
    exactSquares += exact[r] * exact[r]
  }
  const size = Math.sqrt(squares)
  const exactSize = Math.sqrt(exactSquares)
  return {
    angle:
      size > 0 && exactSize > 0
        ? (Math.acos(Math.max(-1, Math.min(1, inner / size / exactSize))) * 180) / Math.PI
        : null,
    ratio: exactSize > 0 ? size / exactSize : null,
  }
}

/** The exact gradient of a softmax policy, and what the policy is worth from the start. */
export interface ExactGradient {
  readonly start: number
  /** [tableRows] */
  readonly gradient: Float64Array
  /** [states] the exact values */
  readonly values: Float64Array
}

/** @param policy [tableRows]. @returns null where the policy has no finite value, or the model is too large */
export function exactGradient(
  world: World,
  policy: Float64Array,
  discount: number,
  temperature: number,
): ExactGradient | null {
  const rows = world.toModelRows(policy)
  const exact = policyGradient(world.model, rows, discount)
  return (
    exact && {
      start: exact.start,
      values: exact.values,
      gradient: softmaxGradient(world.model, world.tableStart, rows, exact, temperature),
    }
  )
}

/** The gradient that an episode was learned from, by its notes: [tableRows], at the policy before it. */
export function episodeGradient(
  world: World,
  { steps, before }: EpisodeTable,
  temperature: number,
): Float64Array {
  const gradient = new Float64Array(world.tableRows)
  for (const { observation, row, update } of steps)
    if (update)
      addStep(gradient, world, before, observation, row, update.weight * update.advantage, temperature)
  return gradient
}

/** Adds size × the gradient of the log-probability of an action. */
function addStep(
  gradient: Float64Array,
  { tableStart }: World,
  policy: Float64Array,
  observation: number,
  row: number,
  size: number,
  temperature: number,
): void {
  for (let r = tableStart[observation]; r < tableStart[observation + 1]; r++)
    gradient[r] += (size * ((r === row ? 1 : 0) - policy[r])) / temperature
}

/** Ways to judge the steps of an episode. */
export const ESTIMATORS = {
  returns: 'returns alone',
  baseline: 'returns − the run’s baseline',
  errors: 'the critic’s errors',
  exact: 'returns − exact values',
} as const
export type Estimator = keyof typeof ESTIMATORS

/** What an estimator of the gradient came to over many episodes with one and the same policy. */
export interface EstimatorSummary {
  readonly estimator: Estimator
  /** The variance of the gradient: of each component, summed up. */
  readonly variance: number
  /** The mean over all episodes against the exact gradient. */
  readonly match: GradientMatch
  /** A single episode against it: the mean of the angles of those that have one. */
  readonly meanAngle: number | null
}

/** What a measurement compares with besides the returns alone. */
export interface Compared {
  /** [observations] what returns are compared with in the run; null where it has no baseline */
  readonly baseline: Float64Array | null
  /** [observations] the critic's values; null where there is none */
  readonly critic: Float64Array | null
}

/** Sums over episodes of one estimator. */
class Sums {
  private readonly mean: Float64Array
  private readonly squares: Float64Array
  private count = 0
  private angles = 0
  private angled = 0

  constructor(
    readonly estimator: Estimator,
    rows: number,
    private readonly exact: Float64Array,
  ) {
    this.mean = new Float64Array(rows)
    this.squares = new Float64Array(rows)
  }

  /** Welford 1962 */
  add(gradient: Float64Array): void {
    this.count++
    for (let r = 0; r < gradient.length; r++) {
      const off = gradient[r] - this.mean[r]
      this.mean[r] += off / this.count
      this.squares[r] += off * (gradient[r] - this.mean[r])
    }
    const { angle } = matchGradients(gradient, this.exact)
    if (angle === null) return
    this.angles += angle
    this.angled++
  }

  summary(): EstimatorSummary {
    const squares = this.squares.reduce((sum, part) => sum + part, 0)
    return {
      estimator: this.estimator,
      variance: this.count > 1 ? squares / (this.count - 1) : 0,
      match: matchGradients(this.mean, this.exact),
      meanAngle: this.angled ? this.angles / this.angled : null,
    }
  }
}

/**
 * Measures what different ways to judge the steps of an episode make of the gradient, over many episodes of a policy that
 * stays as it is: all of them judge the same episodes.
 */
export class GradientMeasure {
  readonly exact: ExactGradient
  episodes = 0
  private readonly sums: readonly Sums[]
  private readonly environment: RandomStream
  private readonly choices: RandomStream

  private constructor(
    private readonly world: World,
    private readonly policy: Float64Array,
    private readonly settings: MeasureSettings,
    private readonly compared: Compared,
    exact: ExactGradient,
  ) {
    this.exact = exact
    const wanted = (Object.keys(ESTIMATORS) as Estimator[]).filter(
      (each) =>
        (each !== 'baseline' || compared.baseline !== null) &&
        (each !== 'errors' || compared.critic !== null),
    )
    this.sums = wanted.map((each) => new Sums(each, world.tableRows, exact.gradient))
    this.environment = new RandomStream(settings.seed, 'environment', settings.run)
    this.choices = new RandomStream(settings.seed, 'method', settings.run)
  }

  /** @param policy [tableRows]. @returns null where there is no exact gradient to compare with */
  static of(
    world: World,
    policy: Float64Array,
    settings: MeasureSettings,
    compared: Compared,
  ): GradientMeasure | null {
    const exact = exactGradient(world, policy, settings.discount, settings.temperature)
    return exact && new GradientMeasure(world, policy, settings, compared, exact)
  }

  /** Plays some episodes more. */
  advance(episodes: number): void {
    for (let k = 0; k < episodes; k++) this.playOne()
  }

  summaries(): EstimatorSummary[] {
    return this.sums.map((sums) => sums.summary())
  }

  private playOne(): void {
    const { world, policy, settings, environment, choices } = this
    const { tableStart, observation, ending } = world
    const states: number[] = []
    const rows: number[] = []
    const rewards: number[] = []
    const discounts: number[] = []
    let state = world.begin(environment)
    while (!ending[state] && states.length < settings.cap) {
      const o = observation[state]
      const size = tableStart[o + 1] - tableStart[o]
      const row =
        tableStart[o] + draw(policy.subarray(tableStart[o], tableStart[o + 1]), size, choices.uniform())
      world.step(state, row - tableStart[o], environment)
      states.push(state)
      rows.push(row)
      rewards.push(world.reward)
      discounts.push(settings.discount * world.carried)
      state = world.next
    }
    this.episodes++
    const gains = new Float64Array(rewards.length + 1)
    for (let t = rewards.length - 1; t >= 0; t--) gains[t] = rewards[t] + discounts[t] * gains[t + 1]
    const after = (t: number) => (t + 1 < states.length ? states[t + 1] : state)
    for (const sums of this.sums) {
      const gradient = new Float64Array(world.tableRows)
      let weight = 1
      for (let t = 0; t < rows.length; t++) {
        const judged = this.judge(sums.estimator, states[t], after(t), rewards[t], discounts[t], gains[t])
        addStep(
          gradient,
          world,
          policy,
          observation[states[t]],
          rows[t],
          weight * judged,
          settings.temperature,
        )
        weight *= discounts[t]
      }
      sums.add(gradient)
    }
  }

  private judge(
    estimator: Estimator,
    state: number,
    next: number,
    reward: number,
    discount: number,
    gain: number,
  ): number {
    const { observation, ending } = this.world
    const { baseline, critic } = this.compared
    switch (estimator) {
      case 'returns':
        return gain
      case 'baseline':
        return gain - baseline![observation[state]]
      case 'exact':
        return gain - this.exact.values[state]
      case 'errors': {
        const ahead = ending[next] ? 0 : critic![observation[next]]
        return reward + discount * ahead - critic![observation[state]]
      }
    }
  }
}

export interface MeasureSettings {
  readonly discount: number
  readonly temperature: number
  readonly cap: number
  readonly seed: number
  readonly run: number
}
