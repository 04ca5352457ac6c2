import { followBase } from '../../core/environment/apply-changes'
import { compileEnvironment, tryCompile } from '../../core/environment/compile'
import { checkEnvironment, parseEnvironment } from '../../core/environment/document'
import { readEnvironment } from '../../core/environment/read'
import { kindOf, type EnvironmentDocument, type Kind } from '../../core/kinds/kinds'
import { checkCheckpoint } from '../../core/learn/read-checkpoint'
import type { Checkpoint } from '../../core/learn/checkpoint'
import { COUNTED_OUTCOMES } from '../../core/limits'
import { parseExercise, checkExercise } from '../../core/exercise/read-exercise'
import { isDrawnAnew } from '../../core/environment/problem-of-run'
import { environmentOf, type Exercise } from '../../core/exercise/exercise'
import type { Model } from '../../core/model/model'
import { capFor } from '../../core/settings/settings'
import { readHandIn } from '../../core/exercise/read-hand-in'
import { scoreHandIn, scorePlayed, type Score } from '../../core/exercise/score'
import { whatIsSeen, type Seen } from '../../core/exercise/seen'
import { walkOf, type Walk } from '../../core/exercise/walk'
import { ProblemError, refuse } from '../../core/problem'

/** A document as it is stored. */
export interface StoredDocument {
  readonly kind: Kind
  readonly name: string
  /** The document, JSON. */
  readonly text: string
}

/** An exercise as it is stored. */
export interface StoredExercise {
  readonly name: string
  /** The exercise, JSON. */
  readonly text: string
}

/** What a program plays. */
export interface Playable {
  readonly model: Model
  readonly cap: number
  readonly discount: number
}

/** How large the model of a document is; null where it has none, or nobody counted. */
export interface Size {
  readonly states: number | null
  readonly actions: number | null
}

/** Work spent on counting the states of a rulebook. */
const COUNT_BUDGET = { rows: 20_000, happenings: 300_000 }
const UNKNOWN: Size = { states: null, actions: null }

/**
 * What the server does with documents that people send. All of it may take long with some of them, and is done away from
 * the thread that serves.
 */
export const DOCUMENT_TASKS = {
  /**
   * A new environment from a document, a rulebook, a list or a map, with its size. Only what compiles is taken; where nobody
   * knows how many states there are, what has no fault in its text.
   */
  receive({ body, name }: { body: Uint8Array; name: string }): {
    document: StoredDocument
    size: Size | null
  } {
    const document = readEnvironment(textOf(body), name)
    const kind = kindOf(document)
    kind.check(document)
    if (kind.roughOutcomes(document) === Infinity) return { document: storedDocument(document), size: null }
    const result = tryCompile(document)
    if (!result.ok) throw new ProblemError(result.problems)
    const { model } = result.compiled
    return {
      document: storedDocument(document),
      size: { states: model.states, actions: model.actions.length },
    }
  },

  /** What is sent to be saved: `{revision, document}`. What is half made is taken as well, a grid if it can be drawn. */
  save({ body }: { body: Uint8Array }): { revision: number; document: StoredDocument } {
    const { revision, document: sent } = objectOf(jsonOf(body))
    if (!Number.isSafeInteger(revision) || (revision as number) < 1)
      refuse('request', '"revision" is not a whole number from 1.', 'See docs/formats.md for the interface.')
    if (typeof sent !== 'object' || sent === null)
      refuse('request', '"document" is missing.', 'See docs/formats.md for the interface.')
    const document = checkEnvironment(sent)
    kindOf(document).checkShape(document)
    return { revision: revision as number, document: storedDocument(document) }
  },

  /** A document under another name. */
  rename({ text, name }: { text: string; name: string }): StoredDocument {
    return storedDocument({ ...parseEnvironment(text), name })
  },

  /**
   * What becomes of variants when their base changes; null for each that stays as it is: because nothing changes, because
   * nothing sound would come of it, or because it cannot be read.
   */
  follow({
    before,
    after,
    variants,
  }: {
    before: string
    after: string
    variants: readonly string[]
  }): (StoredDocument | null)[] {
    const [old, now] = [readable(before), readable(after)]
    return variants.map((text) => {
      const own = old && now && readable(text)
      const followed = own && following(own, old, now)
      const stored = followed && storedDocument(followed)
      return stored && stored.text !== text ? stored : null
    })
  },

  /** How many states and actions there are. */
  size({ text }: { text: string }): Size {
    const document = parseEnvironment(text)
    // Where nobody knows beforehand how many there are, they are counted as far as the budget goes.
    const outcomes = kindOf(document).roughOutcomes(document)
    if (outcomes > COUNTED_OUTCOMES && outcomes < Infinity) return UNKNOWN
    // Half-made environments are kept all the same; so are those too large to count in passing.
    const result = tryCompile(document, COUNT_BUDGET)
    if (!result.ok) return UNKNOWN
    const { model } = result.compiled
    return { states: model.states, actions: model.actions.length }
  },

  /** An exercise as somebody sends it, checked on every level. */
  exercise: ({ body }: { body: Uint8Array }): StoredExercise => storedExercise(checkExercise(jsonOf(body))),

  /** The titles of the policies that the environment of an exercise writes down. */
  policies({ exercise }: { exercise: string }): string[] {
    const result = tryCompile(parseExercise(exercise).environment)
    return result.ok ? result.compiled.policies.map(({ title }) => title) : []
  },

  /** What students see of an exercise. */
  seen: ({ exercise }: { exercise: string }): Seen | null => whatIsSeen(parseExercise(exercise)),

  /**
   * The score of a hand-in: with the open seed, with the worst episode of each level, and with the hidden one where there
   * is one.
   */
  score({ exercise: text, handIn: body }: { exercise: string; handIn: Uint8Array }): {
    open: Score
    walks: readonly Walk[]
    hidden: Score | null
  } {
    const exercise = parseExercise(text)
    const { seeds } = exercise
    const handIn = readHandIn(body)
    const open = scoreHandIn(exercise, handIn, seeds.open)
    return {
      open,
      walks: open.levels.map(({ worst }, number) => walkOf(exercise, handIn, number, seeds.open, worst)),
      hidden: seeds.hidden === null ? null : scoreHandIn(exercise, handIn, seeds.hidden),
    }
  },

  /** The model of a level of an exercise, for programs that play it. */
  model({ exercise: text, level }: { exercise: string; level: number }): Playable {
    const exercise = parseExercise(text)
    const document = environmentOf(exercise, exercise.levels[level])
    if (isDrawnAnew(document))
      refuse('the environment', 'It is another one in every run.', 'Set what is redrawn to 0.')
    const { model } = compileEnvironment(document)
    return { model, cap: capFor(document.cap), discount: document.discount }
  },

  /** The score of episodes that a program played. @param returns  by level */
  scorePlayed: ({
    exercise,
    returns,
    seed,
  }: {
    exercise: string
    returns: readonly Float64Array[]
    seed: number
  }): Score => scorePlayed(parseExercise(exercise), returns, seed),

  /** A learned table, without its numbers and as it is stored. */
  table: ({ body }: { body: Uint8Array }): StoredTable => storedTable(checkCheckpoint(jsonOf(body))),
}

function storedExercise(exercise: Exercise): StoredExercise {
  return { name: exercise.name, text: JSON.stringify(exercise) }
}

/** Undefined for what cannot be read. */
function readable(text: string): EnvironmentDocument | undefined {
  try {
    return parseEnvironment(text)
  } catch (error) {
    if (error instanceof ProblemError) return undefined
    throw error
  }
}

/** Where nothing sound would come of following, a variant stays as it is. */
function following(
  variant: EnvironmentDocument,
  before: EnvironmentDocument,
  after: EnvironmentDocument,
): EnvironmentDocument {
  try {
    const followed = followBase(variant, before, after)
    kindOf(followed).checkShape(followed)
    return followed
  } catch (error) {
    if (error instanceof ProblemError) return variant
    throw error
  }
}

type Tasks = typeof DOCUMENT_TASKS
export type DocumentTask = keyof Tasks
export type DocumentTaskInput<T extends DocumentTask> = Parameters<Tasks[T]>[0]
export type DocumentTaskOutput<T extends DocumentTask> = ReturnType<Tasks[T]>

/** A learned table as it is stored. */
export interface StoredTable {
  readonly about: Omit<Checkpoint, 'states' | 'actions' | 'values'>
  /** The table with its numbers, JSON. */
  readonly text: string
}

export function storedTable(checkpoint: Checkpoint): StoredTable {
  const { states: _states, actions: _actions, values: _values, ...about } = checkpoint
  return { about, text: JSON.stringify(checkpoint) }
}

export function storedDocument(document: EnvironmentDocument): StoredDocument {
  return { kind: document.kind, name: document.name, text: JSON.stringify(document) }
}

/** @throws ProblemError for what is no UTF-8 */
function textOf(body: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(body)
  } catch {
    return refuse('request', 'It is not UTF-8 text.', 'Send a JSON object.')
  }
}

/** @throws ProblemError for what is no JSON */
export function jsonOf(body: Uint8Array): unknown {
  const text = textOf(body)
  try {
    return JSON.parse(text)
  } catch {
    return refuse('request', 'It is not JSON.', 'Send a JSON object.')
  }
}

function objectOf(value: unknown): Readonly<Record<string, unknown>> {
  return typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {}
}
