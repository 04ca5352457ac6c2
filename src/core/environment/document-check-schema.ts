import Joi from 'joi'
import { EXPECTABLE_RULE_IDS } from '../check/rule-ids'
import type { DocumentCheckKind } from './document-check'

const label = Joi.string().min(1).max(200)
const number = Joi.number().min(-1e12).max(1e12)
const within = Joi.number().min(0).max(1e12).default(1e-6)

const FIELDS: Readonly<Record<DocumentCheckKind, Joi.SchemaMap>> = {
  value: { state: label, is: number.required(), within },
  reachable: { state: label.required(), expected: Joi.boolean().default(true) },
  episode: {
    start: label,
    steps: Joi.array()
      .items(Joi.object({ action: label.required(), to: label, reward: number }))
      .min(1)
      .max(1000)
      .required(),
    return: number.required(),
    within,
  },
  better: { policy: label.required(), than: label.required(), by: Joi.number().min(0).max(1e12).default(0) },
  rule: {
    rule: Joi.string()
      .valid(...EXPECTABLE_RULE_IDS)
      .required(),
    expected: Joi.string().valid('holds', 'broken').default('holds'),
  },
}

const KINDS = Object.keys(FIELDS) as DocumentCheckKind[]

/** What an author expects of an environment. */
export const checksSchema = Joi.array()
  .items(
    Joi.alternatives().conditional('.kind', {
      switch: KINDS.map((kind) => ({
        is: kind,
        then: Joi.object({ kind: Joi.valid(kind).required(), ...FIELDS[kind] }),
      })),
      otherwise: Joi.object({
        kind: Joi.string()
          .valid(...KINDS)
          .required(),
      }).unknown(),
    }),
  )
  .max(200)
