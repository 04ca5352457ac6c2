import Joi from 'joi'
import { compileBandit, type BanditLayout } from '../kinds/bandit/compile'
import { banditSchema, type Bandit } from '../kinds/bandit/document'
import { gridSchema, PLAIN_GRID, type Grid } from '../kinds/grid/document'
import { choiceSchema, type LearnChoice } from '../settings/settings-schema'
import { headOfMap, readGridText } from '../kinds/grid/grid-text'
import { compileGrid, type GridLayout } from '../kinds/grid/compile'
import type { Model } from '../model/model'
import { ProblemError, refuse, type Problem } from '../problem'
import type { Measure, StateSpace } from '../model/space'
import { rulebookSchema, type RulebookDocument } from '../kinds/rulebook/document'
import { compileRulebook, type Budget } from '../kinds/rulebook/enumerate'
import type { CompiledRulebook, RulebookFacts } from '../kinds/rulebook/facts'
import { RULE_WORDS } from '../kinds/rulebook/parser'
import { compileTable, tableSchema, type TableDocument } from '../kinds/table/document'
import { isListHeader, parseTransitionList, type TransitionList } from '../kinds/table/transition-list'
import { knobSchema, type NamedNumber } from './knobs'
import { migrateDocument } from './migrate'

export const FORMAT = 'jaunty-pawn/environment'
export const VERSION = 2

interface Head {
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
  /** Settings that learning begins with here, where they differ from what it begins with elsewhere. */
  readonly learning?: Partial<LearnChoice>
}

export interface GridEnvironment extends Head {
  readonly kind: 'grid'
  readonly grid: Grid
}

export interface BanditEnvironment extends Head {
  readonly kind: 'bandit'
  readonly bandit: Bandit
}

export interface TableEnvironment extends Head {
  readonly kind: 'table'
  readonly table: TableDocument
}

export interface RulebookEnvironment extends Head {
  readonly kind: 'rulebook'
  readonly rulebook: RulebookDocument
}

export type EnvironmentDocument = GridEnvironment | BanditEnvironment | RulebookEnvironment | TableEnvironment
export type Kind = EnvironmentDocument['kind']

/** A document turned into numbers: the model, and where its states lie when they lie somewhere. */
export interface Compiled {
  readonly model: Model
  /** Of a grid. */
  readonly layout: GridLayout | null
  /** Of a bandit. */
  readonly bandit: BanditLayout | null
  /** Of environments whose states are made of variables. */
  readonly space: StateSpace | null
  readonly measures: readonly Measure[]
  /** Of a rulebook. */
  readonly facts: RulebookFacts | null
}

/** A compiled rulebook in the form that all kinds share. */
export function compiledFrom(rulebook: CompiledRulebook): Compiled {
  return { ...PLAIN, ...rulebook }
}

const PLAIN = { layout: null, bandit: null, space: null, measures: [], facts: null } as const

/** Each kind of environment, once: its name for people, its part of the document, its compiler. */
export const KINDS: {
  readonly [K in Kind]: {
    readonly title: string
    readonly schema: Joi.ObjectSchema
    /** @param budget  work after which a rulebook is given up; as much as a model can hold when left out */
    compile(document: Extract<EnvironmentDocument, { kind: K }>, budget?: Budget): Compiled
  }
} = {
  grid: {
    title: 'Grid',
    schema: gridSchema,
    compile: (document) => ({ ...PLAIN, ...compileGrid(document.grid, document.cap) }),
  },
  bandit: {
    title: 'Bandit',
    schema: banditSchema,
    compile: (document) => ({ ...PLAIN, ...compileBandit(document.bandit, document.cap) }),
  },
  table: {
    title: 'Table',
    schema: tableSchema,
    compile: (document) => ({ ...PLAIN, model: compileTable(document.table, document.cap) }),
  },
  rulebook: {
    title: 'Rulebook',
    schema: rulebookSchema,
    compile: (document, budget) => compiledFrom(compileRulebook(document.rulebook, document.cap, budget)),
  },
}

/** @throws ProblemError when the document is well formed but is no environment (see the kind's compiler) */
export function compileEnvironment(document: EnvironmentDocument, budget?: Budget): Compiled {
  const { compile } = KINDS[document.kind] as {
    compile(document: EnvironmentDocument, budget?: Budget): Compiled
  }
  return compile(document, budget)
}

/** A document's model, or why it has none. */
export type CompileResult =
  | { readonly ok: true; readonly compiled: Compiled }
  | { readonly ok: false; readonly problems: readonly Problem[] }

/** As {@link compileEnvironment}, but never throws: a failure of the compiler itself is one of the problems. */
export function tryCompile(document: EnvironmentDocument, budget?: Budget): CompileResult {
  try {
    return { ok: true, compiled: compileEnvironment(document, budget) }
  } catch (error) {
    return {
      ok: false,
      problems: error instanceof ProblemError ? error.problems : [compilerProblem(error)],
    }
  }
}

/** What is said when the compiler fails, which is a fault of the program and never the reader's. */
export function compilerProblem(error: unknown): Problem {
  return {
    place: 'the program',
    cause: `The compiler stopped: ${error instanceof Error ? error.message : String(error)}.`,
    remedy:
      'This is a fault of the program; what you wrote is kept. Undo the last change, or say it in another way.',
  }
}

const head = {
  format: Joi.string().valid(FORMAT).required(),
  version: Joi.number().valid(VERSION).required(),
  kind: Joi.string()
    .valid(...Object.keys(KINDS))
    .required(),
  name: Joi.string().trim().min(1).max(120).required(),
  note: Joi.string().allow('').max(4000).default(''),
  discount: Joi.number().min(0).max(1).default(0.95),
  cap: Joi.number().integer().min(0).max(1_000_000).default(200),
  knobs: Joi.array()
    .items(knobSchema)
    .max(50)
    .unique('name')
    .when('kind', {
      is: 'rulebook',
      then: Joi.array().max(0).messages({
        'array.max': '{{#label}} of a rulebook are written in its text',
      }),
    })
    .default([]),
  policy: Joi.object().pattern(Joi.string().max(200), Joi.string().max(200)).max(20_000),
  learning: choiceSchema,
}

/** Joi on a parsed document; fills in defaults, converts nothing, refuses what it does not know. */
const environmentSchema = Joi.object({
  ...head,
  ...Object.fromEntries(
    Object.entries(KINDS).map(([kind, { schema }]) => [
      kind,
      schema.when(Joi.ref('kind'), { is: kind, then: Joi.required(), otherwise: Joi.forbidden() }),
    ]),
  ),
}).required()

/**
 * Checks a value that claims to be an environment document.
 * @throws ProblemError naming the path of everything wrong, up to twenty places
 */
export function checkEnvironment(value: unknown): EnvironmentDocument {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    refuse('document', 'It is not an object.', `An environment begins with {"format":"${FORMAT}"}.`)
  const claim = value as Record<string, unknown>
  if (claim.format !== FORMAT)
    refuse('format', `It is ${quoteValue(claim.format)}.`, `An environment has "format": "${FORMAT}".`)
  if (typeof claim.version === 'number' && claim.version > VERSION)
    refuse(
      'version',
      `The document is of version ${claim.version}, this program reads up to ${VERSION}.`,
      'Use a newer program.',
    )
  const { error, value: checked } = environmentSchema.validate(migrateDocument(claim), {
    abortEarly: false,
    convert: false,
  })
  if (error)
    throw new ProblemError(
      error.details.slice(0, 20).map((detail) => ({
        place: pathText(detail.path) || 'document',
        cause: `${sentence(detail.message)}.`,
        remedy: 'See docs/formats.md for what may stand there.',
      })),
    )
  return checked as EnvironmentDocument
}

/** @throws ProblemError for text that is not JSON, with line and column, or not an environment */
export function parseEnvironment(text: string): EnvironmentDocument {
  let value: unknown
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch (error) {
    const at = /position (\d+)/.exec(String(error))
    const before = at ? text.slice(0, Number(at[1])) : ''
    const place = at
      ? `line ${before.split('\n').length}, column ${before.length - before.lastIndexOf('\n')}`
      : 'end of the text'
    refuse(
      place,
      'This is not valid JSON.',
      'An environment file is one JSON object; look for a missing comma or brace.',
    )
  }
  return checkEnvironment(value)
}

/** How a rulebook begins: with a comment, or with the word of a rule and a name. A list begins with its header. */
const RULEBOOK_START = new RegExp(`^\\uFEFF?\\s*(#|(${RULE_WORDS.join('|')})[ \\t]+["\\p{L}_])`, 'u')

/** What a grid is read into that brings its own grounds. */
const NO_GROUNDS: Grid = { ...PLAIN_GRID, grounds: [], floor: ['.'] }

/** The endings of files that hold one kind only, whatever they begin with. */
const ENDINGS: Readonly<Record<string, (name: string, text: string) => EnvironmentDocument>> = {
  '.json': (_, text) => parseEnvironment(text),
  '.rules': (name, text) => rulebookEnvironment(name, text),
  '.txt': (name, text) => ({
    ...newHead(name, 'Imported grid'),
    kind: 'grid',
    grid: readGridText(text, NO_GROUNDS),
    ...headOfMap(text),
  }),
}

/**
 * Reads what a person hands in: a document (JSON), a rulebook, the map of a grid or a transition list (CSV); by the
 * ending of the file, or by how it begins.
 * @param name  what to call the environment when the file does not say
 * @param ending  of the file, with its point; empty when it is not known
 */
export function readEnvironment(text: string, name: string, ending = ''): EnvironmentDocument {
  if (Object.hasOwn(ENDINGS, ending)) return ENDINGS[ending](name, text)
  if (/^\uFEFF?\s*[{[]/.test(text)) return parseEnvironment(text)
  if (RULEBOOK_START.test(text)) return rulebookEnvironment(name, text)
  const [first] = text.replace(/^\uFEFF/, '').split(/\r?\n/, 1)
  if (first.includes(',') && !isListHeader(first)) {
    const grid = gridOf(name, text)
    if (grid) return grid
  }
  return tableEnvironment(name, parseTransitionList(text))
}

/** A CSV of cells, as grids are exported; undefined when it is none, and is better read as a list. */
function gridOf(name: string, text: string): EnvironmentDocument | undefined {
  try {
    return { ...newHead(name, 'Imported grid'), kind: 'grid', grid: readGridText(text, NO_GROUNDS) }
  } catch (error) {
    if (error instanceof ProblemError) return undefined
    throw error
  }
}

/** The ending of a file's name in small letters, with its point. */
export function endingOf(fileName: string): string {
  return /\.[^.]*$/.exec(fileName)?.[0].toLowerCase() ?? ''
}

export function rulebookEnvironment(name: string, text: string): RulebookEnvironment {
  return {
    ...newHead(name, 'Imported rulebook'),
    kind: 'rulebook',
    rulebook: {
      text: text.replace(/^\uFEFF/, ''),
      knobs: {},
      view: { across: null, up: null, others: {} },
    },
  }
}

/** @param list  transitions alone, or all that a list says */
export function tableEnvironment(
  name: string,
  list: TableDocument['transitions'] | TransitionList,
): TableEnvironment {
  const { transitions, starts, observations } =
    'transitions' in list ? list : { transitions: list, starts: [], observations: {} }
  return {
    ...newHead(name, 'Imported table'),
    kind: 'table',
    table: {
      transitions,
      starts,
      ...(Object.keys(observations).length ? { observations } : {}),
      places: {},
    },
  }
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

function pathText(path: readonly (string | number)[]): string {
  return path
    .map((step) => (typeof step === 'number' ? `[${step}]` : `.${step}`))
    .join('')
    .replace(/^\./, '')
}

/** Joi's message without its quoted path, which stands in `place` already. */
function sentence(message: string): string {
  const text = message
    .replace(/^"[^"]*" length /, 'Its length ')
    .replace(/^"[^"]*" /, 'It ')
    .slice(0, 300)
  return text.charAt(0).toUpperCase() + text.slice(1)
}

function quoteValue(value: unknown): string {
  return value === undefined ? 'missing' : JSON.stringify(value).slice(0, 60)
}
