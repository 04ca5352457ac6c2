import type { LearnChoice } from '../settings/choice'
import type { DocumentCheck } from './document-check'
import type { NamedNumber } from './named-number'

export const FORMAT = 'jaunty-pawn/environment'
export const VERSION = 2

/** What every environment has, whatever its kind. */
export interface Head {
  readonly format: typeof FORMAT
  readonly version: typeof VERSION
  readonly name: string
  /** A paragraph for the class: what to look at. */
  readonly note: string
  /** The discount that planning and learning begin with, from 0 to 1. */
  readonly discount: number
  /** Steps after which an episode is cut off; 0 for no cap. */
  readonly cap: number
  /** Numbers of the document that can be turned by name. A rulebook writes its knobs into its text. */
  readonly knobs: readonly NamedNumber[]
  /** A policy drawn by hand: the action of each state, by name; what is not drawn takes every action equally often. */
  readonly policy?: Readonly<Record<string, string>>
  /** What its author expects of it. */
  readonly checks?: readonly DocumentCheck[]
  /** Settings that learning begins with here, where they differ from what it begins with elsewhere. */
  readonly learning?: Partial<LearnChoice>
}

/** @param otherwise  the name, when there is none */
export function newHead(name: string, otherwise: string): Head {
  return {
    format: FORMAT,
    version: VERSION,
    name: name.trim().slice(0, 120) || otherwise,
    note: '',
    discount: 0.95,
    cap: 200,
    knobs: [],
  }
}
