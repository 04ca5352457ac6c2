import { readdirSync, readFileSync } from 'node:fs'
import Ajv from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { newComparison } from '../compare/comparison'
import { checkComparison } from '../compare/read-comparison'
import { checkEnvironment } from '../environment/document'
import { compileEnvironment } from '../environment/compile'
import { makeCheckpoint } from '../learn/checkpoint'
import { checkCheckpoint } from '../learn/read-checkpoint'
import { World } from '../learn/world'
import { EXERCISE_FORMAT } from '../exercise/exercise'
import { checkExercise } from '../exercise/read-exercise'
import { checkLesson } from '../lesson/read-lesson'
import { checkChoice } from '../settings/choice-schema'
import { firstChoice } from '../settings/first-choice'
import { gridDocument } from '../testing/models'
import { jsonSchema, SCHEMA_NAMES, type SchemaName } from './json-schemas'

const PUBLISHED = 'docs/schemas'
const read = (path: string): unknown => JSON.parse(readFileSync(path, 'utf8'))
const demos = (folder: string) =>
  readdirSync(folder).flatMap((name) =>
    name.endsWith('.json') ? [[name, read(`${folder}/${name}`)] as const] : [],
  )

const validators = new Map(
  SCHEMA_NAMES.map((name) => [name, new Ajv({ strict: false, allErrors: true }).compile(jsonSchema(name))]),
)
const fits = (name: SchemaName, value: unknown) => validators.get(name)!(JSON.parse(JSON.stringify(value)))

/** What of a document an independent validator and our own reading are both asked about. */
function changed(value: unknown, path: readonly (string | number)[], to: unknown): unknown {
  const copy = structuredClone(value) as Record<string, unknown>
  const holder = path
    .slice(0, -1)
    .reduce<Record<string | number, unknown>>(
      (each, step) => each[step] as Record<string | number, unknown>,
      copy,
    )
  if (to === undefined) delete holder[path[path.length - 1]]
  else holder[path[path.length - 1]] = to
  return copy
}

const hall = gridDocument(['..', '..'], { endings: [{ at: 'B2', reward: 4, name: '' }] })
const table = makeCheckpoint(new World(compileEnvironment(hall).model), new Float64Array(8).fill(0.5), {
  name: 'Kept',
  environment: hall.name,
  method: 'q-learning',
  holds: 'action values',
  settings: null,
  steps: 0,
  episodes: 0,
})

const two = { ...newComparison('Two'), environment: hall }

const task = checkExercise({
  ...{ format: EXERCISE_FORMAT, version: 1, name: 'Out', environment: hall, levels: [{ name: 'one' }] },
})

describe('JSON Schemas', () => {
  it.each(SCHEMA_NAMES)('%s is published as it is checked', (name) => {
    expect(readFileSync(`${PUBLISHED}/${name}.json`, 'utf8')).toBe(
      JSON.stringify(jsonSchema(name), null, 1) + '\n',
    )
  })

  it.each(demos('demo'))('a validator accepts %s', (_, document) => {
    expect(fits('environment', document)).toBe(true)
  })

  it.each(demos('demo/comparisons'))('a validator accepts the comparison %s', (_, comparison) => {
    expect(fits('comparison', comparison)).toBe(true)
  })

  it('a validator accepts what is written', () => {
    expect(fits('learned-table', table)).toBe(true)
    expect(fits('comparison', two)).toBe(true)
    expect(fits('settings', firstChoice(hall))).toBe(true)
  })

  /** Each is refused by a validator that knows the schema alone, and by reading. */
  const WRONG: readonly [SchemaName, unknown, readonly (string | number)[], unknown][] = [
    ['environment', hall, ['discount'], 1.5],
    ['environment', hall, ['name'], undefined],
    ['environment', hall, ['grid'], undefined],
    ['environment', hall, ['grid', 'endings', 0, 'reward'], 'four'],
    ['environment', hall, ['table'], {}],
    ['environment', hall, ['unknown'], 1],
    ['comparison', two, ['runs'], 0],
    ['comparison', two, ['view', 'picture'], 'none of them'],
    ['exercise', task, ['levels'], []],
    ['exercise', task, ['accepts', 0], 'essay'],
    ['learned-table', table, ['method'], 'guessing'],
    ['learned-table', table, ['values', 0], 'none'],
    ['settings', firstChoice(hall), ['lambda'], 2],
    ['settings', firstChoice(hall), ['learningRate', 'kind'], 'wavy'],
  ]
  const READERS: Readonly<Record<SchemaName, (value: unknown) => unknown>> = {
    environment: checkEnvironment,
    comparison: (value) => checkComparison(value),
    lesson: checkLesson,
    exercise: checkExercise,
    'learned-table': checkCheckpoint,
    settings: (value) => {
      const read = checkChoice(value)
      if ('problem' in read) throw new Error(read.problem)
    },
  }
  it.each(WRONG)('%s: wrong for both, %#', (name, value, path, to) => {
    expect(fits(name, value)).toBe(true)
    const wrong = changed(value, path, to)
    expect(fits(name, wrong)).toBe(false)
    expect(() => READERS[name](JSON.parse(JSON.stringify(wrong)))).toThrow()
  })
})
