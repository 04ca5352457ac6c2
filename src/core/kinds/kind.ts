import type { Head } from '../environment/head'
import type { DocumentNumber, Knob } from '../environment/head-knobs'
import type { Change, ChangeLine, FieldRule } from '../environment/tree'
import type { ExportForm, LateForm } from '../formats/export-form'
import type { Model, RowPolicy } from '../model/model'
import type { Measure, StateSpace } from '../model/space'

/** What a document of any kind is turned into; each kind adds what only it has. */
export interface CompiledBase {
  readonly model: Model
  /** Of environments whose states are made of variables. */
  readonly space: StateSpace | null
  /** Of environments whose states lie somewhere: null where they do not. */
  readonly places: Places | null
  readonly measures: readonly Measure[]
  /** Policies that the document itself writes down. */
  readonly policies: readonly WrittenPolicy[]
}

/** A compiled environment without anything besides its model. */
export const PLAIN_COMPILED = {
  space: null,
  places: null,
  measures: [],
  policies: [],
} as const satisfies Omit<CompiledBase, 'model'>

/** Where states lie on a board that has more places than states. */
export interface Places {
  /** [places] the state that lies there, -1 for none */
  readonly stateOfPlace: Int32Array
  /** [states] */
  readonly placeOfState: Int32Array
}

/** Where states lie on a floor. */
export interface Lying {
  readonly columns: number
  readonly rows: number
  /** [states] row by row from 0 */
  readonly placeOfState: Int32Array
}

export interface WrittenPolicy {
  readonly title: string
  readonly policy: RowPolicy
}

/** How much work a compilation may be. */
export interface Budget {
  readonly rows: number
  /** Ways in which chance can fall, over all rows. */
  readonly happenings: number
}

/** The making of a model, in slices where it can be long. */
export interface Compilation<C extends CompiledBase> {
  readonly progress: { readonly states: number; readonly rows: number }
  /**
   * Works on about so many rows.
   * @returns true when all is done
   * @throws ProblemError for a fault met on the way, or when the budget is spent
   */
  advance(rows: number): boolean
  /** The finished environment. Only when `advance` has said so. */
  finish(): C
}

/** A compilation that is done in one go. */
export function atOnce<C extends CompiledBase>(compile: () => C): Compilation<C> {
  let compiled: C | undefined
  return {
    get progress() {
      return { states: compiled?.model.states ?? 0, rows: compiled?.model.rows ?? 0 }
    },
    advance() {
      compiled = compile()
      return true
    },
    finish: () => compiled!,
  }
}

/** Numbers that belong to the states and rows of a model, as far as there are any. */
export interface TextNumbers {
  readonly values?: Float64Array
  readonly policy?: Float64Array
}

/** What makes the models of a kind. It is apart from the kind, so that pages load only the compilers they use themselves. */
export interface KindCompiler<D, C extends CompiledBase> {
  /** Makes the model; faults that are found at once are thrown at once. @throws ProblemError */
  compile(document: D, budget?: Budget): Compilation<C>
  /**
   * What a changed document is compiled to, with the very same model, where the change leaves that as it is; left out where
   * such changes do not occur.
   * @param before  the document that `compiled` was made from
   * @returns null where the model may be another one
   */
  renew?(before: D, compiled: C, after: D): C | null
}

/** What is told of a kind where nothing is computed, as on the shelf. */
export interface KindOutline<K extends string, D> {
  readonly kind: K
  /** Its name for people. */
  readonly title: string
  /** A new one to begin with. */
  blank(name: string): D
  /**
   * About how many outcomes the model has, without making it; infinity where nobody knows beforehand. Good for
   * deciding where to compile, for nothing else.
   */
  roughOutcomes(document: D): number
}

/**
 * A kind of environment: all that the rest of the core, the server and the command line ask of it. What people see of
 * it is its entry in `ui/kinds`.
 */
export interface EnvironmentKind<
  K extends string = string,
  Part extends object = object,
  C extends CompiledBase = CompiledBase,
  D extends Head = DocumentOf<K, Part>,
> extends KindOutline<K, D> {
  /** Whether its knobs are those of the head; false where it writes them down itself. */
  readonly headKnobs: boolean
  /** @throws ProblemError for what is wrong and can be told without working the states out */
  check(document: D): void
  /** @throws ProblemError for what cannot be shown, and is not kept even half made */
  checkShape(document: D): void
  /** Whether two parts have the same model: what only concerns the drawing may differ. */
  sameModel(one: D, other: D): boolean
  /** Whether a class must not see what its policies are worth. */
  isCovered(document: D): boolean
  /** The document with its truth shown; left out where nothing can be hidden. */
  uncovered?(document: D): D
  /** What one run meets, where runs meet problems of their own; left out where all of them meet what is written. */
  drawnFor?(document: D, seed: number, run: number): D
  /** The document with one more policy, written as its rules are; left out where nothing is written. @throws ProblemError */
  withPolicy?(document: D, title: string, text: string): D
  /** Where its states lie on a floor; left out where they lie on none. */
  lying?(compiled: C): Lying
  /** Every number that a knob of the head can be given. */
  numbers(document: D): DocumentNumber<D>[]
  /** The knobs it has. @param compiled  the model, where it is there */
  knobs(document: D, compiled: C | null): Knob<D>[]
  /** How each field of its part is called and compared. */
  readonly fields: Readonly<Record<keyof Part & string, FieldRule>>
  /** Names of what comparing adds besides its fields. */
  readonly parts?: Readonly<Record<string, string>>
  /** Changes it puts in words itself; the others are left to be told one by one. */
  describe?(
    changes: readonly Change[],
    document: D,
  ): { readonly lines: readonly ChangeLine[]; readonly others: readonly Change[] }
  /** Forms to take it away in that are its own. */
  readonly exports: Readonly<Record<string, ExportForm<D, C>>>
  /** Those of them that few take away, loaded when they are wanted; left out where there are none. */
  readonly lateExports?: Readonly<Record<string, LateForm<D, C>>>
  /** What of it a list of its transitions cannot say. */
  listLosses(compiled: C): string[]
  /** What it says of itself as plain text; empty where that is nothing. */
  text(document: D): string
  /** What it says of itself as sentences, a rule each; left out where it says nothing. */
  aloud?(document: D): Promise<string[]>
  /** Numbers laid out as its states lie; null where a list of states serves. @param place  the one looked at */
  numbersText?(compiled: C, numbers: TextNumbers, place: number): string
  /** Whether what its policies are worth is told while it is being built. */
  readonly scoresPolicies: boolean
}

export type DocumentOf<K extends string, Part> = Head & { readonly kind: K } & { readonly [Key in K]: Part }
