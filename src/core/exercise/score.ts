import { followedPolicy } from '../compare/followed'
import { exactEpisodes } from '../evaluate/exact-episodes'
import { compileEnvironment } from '../environment/compile'
import type { Compiled, EnvironmentDocument } from '../kinds/kinds'
import { isDrawnAnew } from '../environment/problem-of-run'
import { likeliest, playTrials } from '../evaluate/rollout'
import { World } from '../learn/world'
import { startValue, type Model, type RowPolicy } from '../model/model'
import { PLAN_DEFAULTS } from '../plan/plan-settings'
import { randomPolicy } from '../plan/evaluate'
import { BackwardInduction } from '../plan/value-iteration'
import { refuse, within } from '../problem'
import { capFor } from '../settings/settings'
import { environmentOf, type Exercise, type Level } from './exercise'
import { policyOf, type HandIn } from './hand-in'
import { HAND_IN_WORDS, handInWords } from './hand-in-words'

/** What a hand-in came to on a level. All returns are discounted, of episodes that the step limit may cut off. */
export interface LevelScore {
  readonly level: string
  readonly episodes: number
  /** The mean return of the episodes played, and the ends of its 95 % interval; null for a single episode. */
  readonly mean: number
  readonly interval: readonly [low: number, high: number] | null
  /** What a random agent expects, exactly, and what is possible at most. */
  readonly random: number
  readonly optimum: number
  /** What the policy of the instructor expects, exactly; null where there is none. */
  readonly reference: number | null
  /**
   * The exact expected return of always taking the most likely action of a stochastic policy; null for a deterministic one
   * and for what a program played. Missing in scores of earlier versions.
   */
  readonly likely?: number | null
  /**
   * How far from the random agent to what is possible: 0 to 1, below 0 for worse than random; above 1 by the luck of the
   * episodes. Null where there is nothing to win.
   */
  readonly share: number | null
  readonly points: number
  readonly of: number
  /** The number of the episode with the lowest return, from 0. */
  readonly worst: number
}

export interface Score {
  /** The seed it was played with. */
  readonly seed: number
  readonly levels: readonly LevelScore[]
  readonly points: number
  readonly of: number
}

/**
 * Plays what was handed in on every level. The same hand-in comes to the same score.
 * @throws ProblemError where it is of a kind that is not accepted, or does not fit a level
 */
export function scoreHandIn(exercise: Exercise, handIn: HandIn, seed: number): Score {
  const { accepts, levels } = exercise
  if (!accepts.includes(handIn.kind))
    refuse(
      'the hand-in',
      `It is ${HAND_IN_WORDS[handIn.kind].title}, which this exercise does not take.`,
      `Hand in ${handInWords(accepts)}.`,
    )
  return scoreOf(
    seed,
    levels.map((level) => within(level.name, () => scoreLevel(exercise, level, handIn, seed))),
  )
}

function scoreLevel(exercise: Exercise, level: Level, handIn: HandIn, seed: number): LevelScore {
  const document = environmentOf(exercise, level)
  if (isDrawnAnew(document))
    refuse(
      'the environment',
      'It is another one in every run, so that no policy can be written down for it.',
      'Set what is redrawn to 0.',
    )
  const compiled = compileEnvironment(document)
  const policy = policyOf(handIn, compiled, document)
  const { returns } = playTrials(new World(compiled.model), policy, {
    episodes: exercise.episodes,
    seed,
    cap: capFor(document.cap),
    discount: document.discount,
  })
  return scoreOfReturns(exercise, level, document, compiled, returns, policy)
}

/** What episodes that a program played come to. @param returns  by level, those of its episodes */
export function scorePlayed(exercise: Exercise, returns: readonly Float64Array[], seed: number): Score {
  return scoreOf(
    seed,
    exercise.levels.map((level, i) => {
      const document = environmentOf(exercise, level)
      return scoreOfReturns(exercise, level, document, compileEnvironment(document), returns[i])
    }),
  )
}

function scoreOf(seed: number, levels: readonly LevelScore[]): Score {
  const sum = (of: (score: LevelScore) => number) => levels.reduce((total, each) => total + of(each), 0)
  return { seed, levels, points: sum(({ points }) => points), of: sum(({ of }) => of) }
}

function scoreOfReturns(
  { reference }: Exercise,
  level: Level,
  document: EnvironmentDocument,
  compiled: Compiled,
  returns: Float64Array,
  policy: RowPolicy | null = null,
): LevelScore {
  const { model } = compiled
  const { discount } = document
  const cap = capFor(document.cap)
  const episodes = returns.length
  const mean = returns.reduce((sum, each) => sum + each, 0) / episodes
  const squares = returns.reduce((sum, each) => sum + (each - mean) ** 2, 0)
  const standardError = episodes > 1 ? Math.sqrt(squares / (episodes - 1) / episodes) : null
  const random = exactEpisodes(model, randomPolicy(model), discount, cap).value
  const optimum = bestWithin(model, discount, cap)
  const span = optimum - random
  const share = span > 1e-9 * Math.max(1, Math.abs(optimum)) ? (mean - random) / span : null
  return {
    level: level.name,
    episodes,
    mean,
    interval: standardError === null ? null : [mean - Z * standardError, mean + Z * standardError],
    random,
    optimum,
    reference: reference
      ? exactEpisodes(model, followedPolicy(compiled, reference, discount), discount, cap).value
      : null,
    likely: policy && likelyValue(model, policy, discount, cap),
    share,
    points: level.points * (share === null ? 1 : Math.min(1, Math.max(0, share))),
    of: level.points,
    worst: returns.reduce((worst, value, k) => (value < returns[worst] ? k : worst), 0),
  }
}

/** The exact value of a stochastic policy's most likely actions; null for a deterministic one. */
function likelyValue(model: Model, policy: RowPolicy, discount: number, cap: number): number | null {
  const sharp = likeliest(model, policy)
  return sharp.every((chance, row) => Math.abs(chance - policy[row]) < 1e-9)
    ? null
    : exactEpisodes(model, sharp, discount, cap).value
}

/** Standard errors to either side of a mean that make a 95 % interval. */
const Z = 1.96

/** The most that episodes of so many steps can be worth, by backward induction (Puterman 1994, section 4.5). */
function bestWithin(model: Model, discount: number, cap: number): number {
  const planner = new BackwardInduction(model, { ...PLAN_DEFAULTS, discount, horizon: cap })
  for (let step = 0; step < cap; step++) planner.sweep()
  return startValue(model, planner.values)
}
