import type { ObjectSchema } from 'joi'
import { comparisonSchema } from '../compare/read-comparison'
import { environmentSchema } from '../environment/document'
import { exerciseSchema } from '../exercise/read-exercise'
import { KIND_NAMES } from '../kinds/outlines'
import { checkpointSchema } from '../learn/read-checkpoint'
import { lessonSchema } from '../lesson/read-lesson'
import { choiceSchema } from '../settings/choice-schema'

interface Described {
  readonly title: string
  readonly description: string
  readonly schema: ObjectSchema
  /** What the schema generated from it does not say. */
  readonly besides?: Readonly<Record<string, unknown>>
}

/** Every document that is read, by the name its schema is published under. */
const DESCRIBED = {
  environment: {
    title: 'An environment',
    description: 'What stands under the name of its kind belongs to it; the other kinds’ parts are left out.',
    schema: environmentSchema,
    besides: {
      oneOf: KIND_NAMES.map((kind) => ({
        properties: { kind: { const: kind } },
        required: [kind],
        not: { anyOf: KIND_NAMES.filter((each) => each !== kind).map((each) => ({ required: [each] })) },
      })),
    },
  },
  comparison: {
    title: 'A comparison',
    description: 'Environments in it are as environment.json says.',
    schema: comparisonSchema,
  },
  lesson: {
    title: 'A lesson',
    description: 'Documents in it are as environment.json says, comparisons as comparison.json says.',
    schema: lessonSchema,
  },
  exercise: {
    title: 'An exercise',
    description:
      'Its environment is as environment.json says; a table to compare with as learned-table.json says.',
    schema: exerciseSchema,
  },
  'learned-table': {
    title: 'A learned table',
    description: 'One line of values a state, one number an action; null where an action is not possible.',
    schema: checkpointSchema,
  },
  settings: {
    title: 'Settings of a run',
    description: 'What is left out is as a run begins with.',
    schema: choiceSchema,
  },
} as const satisfies Readonly<Record<string, Described>>

export type SchemaName = keyof typeof DESCRIBED
export const SCHEMA_NAMES = Object.keys(DESCRIBED) as SchemaName[]

/**
 * The JSON Schema (draft 2020-12) of what is checked when a document is read. What follows from several places at once (a cell
 * that must lie on the map, chances that must sum to 1) is checked besides, and told when the document is read.
 */
export function jsonSchema(name: SchemaName): Readonly<Record<string, unknown>> {
  const { title, description, schema, besides }: Described = DESCRIBED[name]
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: `jaunty-pawn/${name}.json`,
    title,
    description,
    ...(withNulls(schema['~standard'].jsonSchema.input({ target: 'draft-2020-12' })) as object),
    ...besides,
  }
}

/** Joi leaves null out of the values of a choice that may be null. */
function withNulls(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withNulls)
  if (typeof schema !== 'object' || schema === null) return schema
  const entries = Object.entries(schema).map(([key, value]) => [key, withNulls(value)] as const)
  const made = Object.fromEntries(entries) as { type?: unknown; enum?: unknown[] }
  return Array.isArray(made.type) && made.type.includes('null') && made.enum
    ? { ...made, enum: [...made.enum, null] }
    : made
}
