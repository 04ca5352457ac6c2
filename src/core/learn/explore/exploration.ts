import type { RandomStream } from '../../random/generator'
import type { GreedyTable } from '../greedy-table'
import type { Actor } from './actor'

/** What an actor is made of. */
export interface ActorParts {
  readonly table: GreedyTable
  /** [tableRows] how often each row was taken */
  readonly visits: Float64Array
  readonly exploration: RandomStream
  /** Null: the first of several best actions is taken. */
  readonly ties: RandomStream | null
  /** Actions of an observation at the most. */
  readonly mostRows: number
}

/** A way in which an agent comes to try what does not look best. */
export interface ExplorationKind {
  readonly title: string
  /** What its number is called, which a schedule may move. */
  readonly level: string
  readonly hint: string
  /** The same in a few letters. */
  readonly brief: string
  /** What the number may be. */
  readonly range: { readonly min: number; readonly max: number; readonly aboveMin: boolean }
  /** What it is to begin with. */
  readonly usual: number
  /**
   * Which kernels of action values can act so: all, none, or that of one-step methods that keep no workings, with the number by
   * which soft-steps.as knows the way.
   */
  readonly kernels: 'all' | 'none' | { readonly leanOneStep: number }
  /** Whether it goes by how often rows were taken, which then must be counted. */
  readonly goesByVisits: boolean
  /** Whether it goes by rewards alone, which says nothing where actions have consequences. */
  readonly forBandits: boolean
  create(parts: ActorParts): Actor
}
