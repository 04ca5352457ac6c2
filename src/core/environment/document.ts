import Joi from 'joi'
import { KINDS, type EnvironmentDocument } from '../kinds/kinds'
import { KIND_NAMES } from '../kinds/outlines'
import { ProblemError, refuse } from '../problem'
import { SCHEMAS } from '../kinds/schemas'
import { FORMAT, VERSION } from './head'
import { headFields } from './head-schema'
import { migrateDocument } from './migrate'
import { withVisibleSigns } from './visible'

const ownKnobs = KIND_NAMES.filter((kind) => !KINDS[kind].headKnobs)

/** Joi on a parsed document; fills in defaults, converts nothing, refuses what it does not know. */
export const environmentSchema = Joi.object({
  ...headFields,
  kind: Joi.string()
    .valid(...KIND_NAMES)
    .required(),
  knobs: (headFields.knobs as Joi.ArraySchema).when('kind', {
    is: Joi.valid(...ownKnobs),
    then: Joi.array().max(0).messages({
      'array.max': '{{#label}} of a rulebook are written in its text',
    }),
  }),
  ...Object.fromEntries(
    KIND_NAMES.map((kind) => [
      kind,
      SCHEMAS[kind].when(Joi.ref('kind'), {
        is: kind,
        then: Joi.required(),
        otherwise: Joi.forbidden(),
      }),
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
  const { error, value: checked } = environmentSchema.validate(withVisibleSigns(migrateDocument(claim)), {
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
