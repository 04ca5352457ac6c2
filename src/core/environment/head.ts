import Joi from 'joi'
import { choiceSchema, type LearnChoice } from '../settings/choice'
import { knobSchema, type NamedNumber } from './named-number'

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
  /** Settings that learning begins with here, where they differ from what it begins with elsewhere. */
  readonly learning?: Partial<LearnChoice>
}

/** Of the head of a document, but for its kind. */
export const headFields: Joi.SchemaMap = {
  format: Joi.string().valid(FORMAT).required(),
  version: Joi.number().valid(VERSION).required(),
  name: Joi.string().trim().min(1).max(120).required(),
  note: Joi.string().allow('').max(4000).default(''),
  discount: Joi.number().min(0).max(1).default(0.95),
  cap: Joi.number().integer().min(0).max(1_000_000).default(200),
  knobs: Joi.array().items(knobSchema).max(50).unique('name').default([]),
  policy: Joi.object().pattern(Joi.string().max(200), Joi.string().max(200)).max(20_000),
  learning: choiceSchema,
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
