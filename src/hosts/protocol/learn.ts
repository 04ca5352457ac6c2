import type { LandscapeScale } from '../../core/learn/landscape'
import type { Working } from '../../core/explain/working'
import type { EpisodeTable } from '../../core/learn/episode-table'
import type { EstimatorSummary, GradientMatch } from '../../core/learn/gradient-truth'
import type { ReturnCurve } from '../../core/learn/episode-log'
import type { LastStep, LearnSnapshot, LearnStatus } from '../../core/learn/learner'
import type { LearnMethodId } from '../../core/learn/methods/methods'
import type { Model, RowPolicy } from '../../core/model/model'
import type { LearnSettings } from '../../core/settings/settings'
import type { HostFailure, Speed } from './common'

export type LearnRequest =
  | {
      readonly type: 'open'
      readonly session: number
      readonly model: Model
      readonly method: LearnMethodId
      readonly settings: LearnSettings
      /** What the table begins with instead of what the settings say: [cells of the table]. */
      readonly table: Float64Array | null
      /** A run that was broken off, to go on with. */
      readonly saved: SavedRun | null
      /** Whether the fingerprint of the model is wanted: of a large one it takes a while. */
      readonly identify: boolean
    }
  | { readonly type: 'run'; readonly speed: Speed }
  | { readonly type: 'pause' }
  /** One step, or to the end of an episode. */
  | { readonly type: 'step'; readonly unit: LearnUnit; readonly way: 'on' | 'back' }
  /** To a moment of the run, as far as it has come: after so many steps, or so many finished episodes. */
  | { readonly type: 'go'; readonly unit: LearnUnit; readonly count: number }
  /** As fast as it can to where a run was, and then to the moment of it that was looked at; both in steps. */
  | { readonly type: 'reach'; readonly reached: number; readonly at: number }
  /** The state whose working every frame brings along; null for the one last left. */
  | { readonly type: 'watch'; readonly state: number | null }
  /** The window of the rolling mean, in episodes. */
  | { readonly type: 'window'; readonly episodes: number }
  /** Asks for the table as it is. */
  | { readonly type: 'take' }
  /** Asks for a table of the episode at hand, or of the one just finished. */
  | { readonly type: 'episode' }
  /** Asks for so many episodes with the policy as it is, to measure its gradient; 0 stops that. */
  | { readonly type: 'measure'; readonly episodes: number }
  /** Asks for the value at the start over the probabilities of one or two actions, by rows of the model. */
  | {
      readonly type: 'landscape'
      readonly rows: readonly number[]
      readonly size: number
      readonly scale: LandscapeScale
    }
  | { readonly type: 'shown' }

export type LearnUnit = 'step' | 'episode'

/** A run at a keyframe with its episodes so far: all that is needed to go on. */
export interface SavedRun {
  readonly snapshot: LearnSnapshot
  readonly returns: Float64Array
  readonly lengths: Int32Array
}

export interface LearnFrame {
  readonly type: 'frame'
  readonly session: number
  readonly running: boolean
  /** Nothing is left to do from here. */
  readonly done: boolean
  /** Why the run is over at its furthest moment, or that it is not. */
  readonly status: LearnStatus
  readonly steps: number
  readonly episodes: number
  /** Steps and episodes at the furthest moment there was, and at the earliest one can go back to. */
  readonly reached: number
  readonly reachedEpisodes: number
  readonly first: number
  /** Where the agent stands, -1 between episodes, and for how many steps it has been on its way. */
  readonly state: number
  readonly age: number
  readonly last: LastStep
  /** The action of the last step, an index into the model's actions; -1 before the first. */
  readonly lastAction: number
  /** How likely what followed was, given the action; 1 before the first step. */
  readonly lastChance: number
  /** What the number of the action last taken (or of the state left) was before the step; null when it did not change. */
  readonly lastBefore: number | null
  /** Exploration, or temperature, and learning rate now. */
  readonly level: number
  readonly learningRate: number
  /** [rows] of the model: action values or preferences; null where the table holds values of states */
  readonly rowValues: Float64Array | null
  /** How many numbers the table has. */
  readonly cells: number
  /** [rows] the learned policy, and how often each was taken */
  readonly policy: Float64Array
  readonly rowVisits: Float64Array
  /** [states] the largest action value, the value, or for preferences the exact value of the policy */
  readonly values: Float64Array
  /** [states] by how much the last step moved each value; null when nobody could see it */
  readonly moved: Float64Array | null
  /** [rows], or [states] where the table holds values: eligibility; null for methods without traces */
  readonly traces: Float64Array | null
  readonly curve: ReturnCurve
  /** The mean return of the first episodes, of as many after them, and of the last ones; null where there are too few. */
  readonly spans: {
    readonly size: number
    readonly first: number | null
    readonly next: number | null
    readonly last: number | null
  }
  /** The mean return of all episodes so far; null before there was one. */
  readonly meanReturn: number | null
  /** The first episode that ended by itself, from 1; 0 as long as none did. */
  readonly firstEnded: number
  /** The exact value of the learned policy from the start after some episodes, up to the furthest moment. */
  readonly marks: { readonly episode: Float64Array; readonly value: Float64Array }
  readonly working: Working | null
  /** Why the agent will choose there what it chooses; null where there is nothing to say. */
  readonly choice: Working | null
  /** [rows] how good each action may still be, for agents that act by that: infinity for what was never tried; else null */
  readonly bounds: Float64Array | null
  /** Which line of the pseudo-code is at hand. */
  readonly place: string
  /** The exact value of the learned policy from the start; null when it has none or was not computed. */
  readonly exactValue: number | null
  /** Steps a second since the last pause, 0 when unknown. */
  readonly rate: number
}

/** Sent once in a learning session, as soon as it is known. */
export interface OptimumFound {
  readonly type: 'optimum'
  readonly session: number
  /** What the best policy gets from the start (or, for prediction, what the policy that is followed gets). */
  readonly optimum: number
  /** [states] the same from everywhere */
  readonly values: Float64Array
}

/** The table of a run as it is, to be kept. */
export interface TakenTable {
  readonly type: 'table'
  readonly session: number
  readonly table: Float64Array
  readonly visits: Float64Array
  /** [rows] what was learned, and how the agent acts now, exploring included */
  readonly policy: RowPolicy
  readonly behaviour: RowPolicy
  readonly steps: number
  readonly episodes: number
}

/** Sent now and then while a run goes on, so that it can be taken up after an accident. */
export interface KeptRun {
  readonly type: 'kept'
  readonly session: number
  readonly saved: SavedRun
}

/** The fingerprint of the model that a session was opened with. */
export interface IdentifiedModel {
  readonly type: 'fingerprint'
  readonly session: number
  readonly fingerprint: number
}

/** An episode step by step. */
export interface ToldEpisode {
  readonly type: 'episode'
  readonly session: number
  /** Its policies are over the rows of the model; null where there is none, or one cannot go back to its beginning. */
  readonly table: EpisodeTable | null
  /** How the gradient it was learned from lies to the exact one of the policy before it; null where there is none. */
  readonly truth: EpisodeTruth | null
}

export interface EpisodeTruth {
  /** The exact value of the policy at the start. */
  readonly start: number
  /** The length of the exact gradient. */
  readonly norm: number
  readonly match: GradientMatch
}

/** The exact value at the start over probabilities of the policy, as far as it is worked out. */
export interface ToldLandscape {
  readonly type: 'landscape'
  readonly session: number
  /** The step of the run whose policy it is made from. */
  readonly step: number
  /** Rows of the model: the actions whose probabilities are the axes. */
  readonly rows: readonly number[]
  /** Points along an axis, and what they are. */
  readonly size: number
  readonly scale: LandscapeScale
  /** [size], or [size x size] with the first axis running fastest; NaN where there is no finite value, or none yet */
  readonly values: Float64Array
  readonly finished: boolean
  /** Where the run was after some episodes: the probability along each axis, and the exact value then. */
  readonly path: readonly (readonly [value: number, ...at: number[]])[]
}

/** What many episodes of the policy as it is say of its gradient. */
export interface MeasuredGradient {
  readonly type: 'measured'
  readonly session: number
  /** The step of the run whose policy it is. */
  readonly step: number
  readonly episodes: number
  readonly wanted: number
  readonly norm: number
  readonly summaries: readonly EstimatorSummary[]
}

export type LearnReply =
  | LearnFrame
  | OptimumFound
  | ToldEpisode
  | ToldLandscape
  | MeasuredGradient
  | TakenTable
  | KeptRun
  | IdentifiedModel
  | HostFailure
