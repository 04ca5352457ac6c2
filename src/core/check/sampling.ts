import { playTrials } from '../evaluate/rollout'
import type { World } from '../learn/world'
import type { Model, RowPolicy } from '../model/model'
import { randomPolicy } from '../plan/evaluate'
import { RandomStream } from '../random/generator'
import { normalQuantile } from '../random/normal'
import { chiSquareTail, gTest } from '../statistics/chi-square'

/** How sampling is done. */
export interface SamplingSettings {
  /** Draws in all, shared among what is left to chance. */
  readonly draws: number
  /** Episodes of the uniform random policy. */
  readonly episodes: number
  readonly seed: number
  /** Steps after which those are cut off. */
  readonly cap: number
  readonly discount: number
}

/** Declared against drawn, for one row, or for the start where that is -1. */
export interface Disagreement {
  readonly row: number
  readonly p: number
  /** The outcome that is furthest off, its chance and how often it was drawn. */
  readonly outcome: number
  readonly declared: number
  readonly observed: number
}

/** A mean that was drawn beside what it must be. */
export interface MeanCheck {
  readonly exact: number
  readonly mean: number
  /** Of that mean, from the exact variance. */
  readonly standardError: number
  readonly p: number
}

export interface SamplingReport {
  readonly draws: number
  /** Rows and starts that were compared, and rows that have too rare outcomes for so few draws. */
  readonly tests: number
  readonly skipped: number
  /** After correction for their number (Holm 1979), at the level of 1 %. */
  readonly disagreements: readonly Disagreement[]
  /** The difference of a chance that would have been seen with 99 %; null where nothing was compared. */
  readonly power: number | null
  /** Null where nothing varies. */
  readonly returns: MeanCheck | null
  readonly lengths: MeanCheck | null
  readonly episodes: number
  readonly seconds: number
}

/** The chance to find fault with a right environment. */
const LEVEL = 0.01
/** The chance to see a difference of the size that is told. */
const POWER = 0.99

/**
 * Draws by the same path that learners use, and compares frequencies with what is declared: rows by a G test each, with
 * a correction for their number (Holm 1979); mean return and mean length of the uniform random policy with what they
 * must be.
 * @param world  what is drawn from
 * @param declared  the model that says the chances; that of the world where nothing else is to be compared
 */
export function sampleWorld(
  world: World,
  settings: SamplingSettings,
  declared: Model = world.model,
): SamplingReport {
  const began = performance.now()
  const { rows, outcomeStart, rowStart } = declared
  const chancy: number[] = []
  for (let r = 0; r < rows; r++) if (outcomeStart[r + 1] - outcomeStart[r] > 1) chancy.push(r)
  const parts = chancy.length + (declared.startState.length > 1 ? 1 : 0)
  const each = parts ? Math.max(1, Math.floor(settings.draws / parts)) : 0
  const results: Disagreement[] = []
  let skipped = 0
  const compare = (row: number, counts: Int32Array, chances: Float64Array) => {
    const p = gTest(counts, chances)
    if (p === null) {
      skipped++
      return
    }
    let worst = 0
    for (let i = 1; i < counts.length; i++)
      if (Math.abs(counts[i] / each - chances[i]) > Math.abs(counts[worst] / each - chances[worst])) worst = i
    results.push({
      row,
      p,
      outcome: row < 0 ? worst : outcomeStart[row] + worst,
      declared: chances[worst],
      observed: counts[worst] / each,
    })
  }
  let state = 0
  for (const row of chancy) {
    while (rowStart[state + 1] <= row) state++
    const stream = new RandomStream(settings.seed, 'environment', row + 1)
    compare(row, countOutcomes(world, state, row, each, stream), chancesOf(declared, row))
  }
  if (declared.startState.length > 1) {
    const number = new Map(Array.from(declared.startState, (s, i) => [s, i]))
    const counts = new Int32Array(declared.startState.length)
    const stream = new RandomStream(settings.seed, 'environment', 0)
    for (let i = 0; i < each; i++) counts[number.get(world.begin(stream))!]++
    compare(-1, counts, declared.startProbability)
  }
  const tests = results.length
  return {
    draws: each * parts,
    tests,
    skipped,
    disagreements: holm(results),
    power: tests ? smallestSeen(each, tests) : null,
    ...means(world, settings, declared),
    episodes: settings.episodes,
    seconds: (performance.now() - began) / 1000,
  }
}

/**
 * How often each outcome of a row came, by the steps of the world; of outcomes that look alike the first one counts for
 * all.
 */
function countOutcomes(
  world: World,
  state: number,
  row: number,
  draws: number,
  stream: RandomStream,
): Int32Array {
  const { rowStart, outcomeStart, outcomeState, outcomeReward } = world
  const from = outcomeStart[row]
  const counts = new Int32Array(outcomeStart[row + 1] - from)
  /** The outcomes that lead to a state. */
  const leading = new Map<number, number[]>()
  for (let o = from; o < outcomeStart[row + 1]; o++)
    leading.set(outcomeState[o], [...(leading.get(outcomeState[o]) ?? []), o])
  for (let i = 0; i < draws; i++) {
    world.step(state, row - rowStart[state], stream)
    const there = leading.get(world.next)!
    const outcome = there.length === 1 ? there[0] : there.find((o) => outcomeReward[o] === world.reward)!
    counts[outcome - from]++
  }
  return counts
}

/** The chances of a row, those of outcomes that look alike put together as they are counted. */
function chancesOf({ outcomeStart, outcomeState, outcomeReward, outcomeProbability }: Model, row: number) {
  const from = outcomeStart[row]
  const chances = new Float64Array(outcomeStart[row + 1] - from)
  const first = new Map<string, number>()
  for (let o = from; o < outcomeStart[row + 1]; o++) {
    const key = `${outcomeState[o]} ${outcomeReward[o]}`
    if (!first.has(key)) first.set(key, o - from)
    chances[first.get(key)!] += outcomeProbability[o]
  }
  return chances
}

/** Those that are told apart from chance although so many were compared (Holm 1979), the clearest first. */
function holm(results: readonly Disagreement[]): Disagreement[] {
  const sorted = [...results].sort((x, y) => x.p - y.p)
  const end = sorted.findIndex(({ p }, i) => p > LEVEL / (sorted.length - i))
  return sorted.slice(0, end < 0 ? sorted.length : end)
}

/** The difference of a chance of one half that is seen with so many draws, whatever the others do. */
function smallestSeen(draws: number, tests: number): number {
  const z = normalQuantile(1 - LEVEL / (2 * tests)) + normalQuantile(POWER)
  return z * Math.sqrt(0.25 / draws)
}

function means(
  world: World,
  { episodes, seed, cap, discount }: SamplingSettings,
  declared: Model,
): Pick<SamplingReport, 'returns' | 'lengths'> {
  const policy = randomPolicy(declared)
  const exact = episodeMoments(declared, policy, discount, cap)
  const trials = playTrials(world, policy, { episodes, seed, cap, discount })
  const lengths = trials.lengths.reduce((sum, length) => sum + Math.abs(length), 0) / episodes
  return {
    returns: meanCheck(trials.mean, exact.returns, episodes),
    lengths: meanCheck(lengths, exact.lengths, episodes),
  }
}

interface Moments {
  readonly mean: number
  readonly variance: number
}

function meanCheck(mean: number, exact: Moments, episodes: number): MeanCheck | null {
  const standardError = Math.sqrt(exact.variance / episodes)
  if (!(standardError > 1e-9 * Math.max(1, Math.abs(exact.mean)))) return null
  const z = (mean - exact.mean) / standardError
  return { exact: exact.mean, mean, standardError, p: chiSquareTail(z * z, 1) }
}

/**
 * Mean and variance of the discounted return and of the length of an episode that is cut off after `cap` steps, exactly:
 * first and second moments backwards over the steps that are left (Sobel 1982).
 */
export function episodeMoments(
  model: Model,
  policy: RowPolicy,
  discount: number,
  cap: number,
): { readonly returns: Moments; readonly lengths: Moments } {
  const { states, rowStart, outcomeStart, outcomeState, outcomeProbability, outcomeReward, outcomeDiscount } =
    model
  let now = Array.from({ length: 4 }, () => new Float64Array(states))
  let then = Array.from({ length: 4 }, () => new Float64Array(states))
  for (let left = 0; left < cap; left++) {
    const [mean, square, length, lengthSquare] = now
    let change = 0
    for (let s = 0; s < states; s++) {
      let [m, q, l, k] = [0, 0, 0, 0]
      for (let r = rowStart[s]; r < rowStart[s + 1]; r++) {
        if (!(policy[r] > 0)) continue
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) {
          const chance = policy[r] * outcomeProbability[o]
          const next = outcomeState[o]
          const weight = outcomeDiscount ? discount * outcomeDiscount[o] : discount
          const reward = outcomeReward[o]
          m += chance * (reward + weight * mean[next])
          q += chance * (reward * reward + 2 * reward * weight * mean[next] + weight * weight * square[next])
          l += chance * (1 + length[next])
          k += chance * (1 + 2 * length[next] + lengthSquare[next])
        }
      }
      const values = [m, q, l, k]
      for (let i = 0; i < 4; i++) {
        change = Math.max(change, Math.abs(values[i] - now[i][s]))
        then[i][s] = values[i]
      }
    }
    ;[now, then] = [then, now]
    if (change === 0) break
  }
  const over = (of: Float64Array) =>
    model.startState.reduce((sum, s, i) => sum + model.startProbability[i] * of[s], 0)
  const moments = (mean: number, square: number) => ({ mean, variance: Math.max(0, square - mean * mean) })
  return { returns: moments(over(now[0]), over(now[1])), lengths: moments(over(now[2]), over(now[3])) }
}
