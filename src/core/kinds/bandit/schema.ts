import Joi from 'joi'
import { ARM_LIMIT, CONTEXT_LIMIT, PULL_LIMIT, type Bandit, type Drift } from './document'
import type { PayOff } from './pay-off'

const reward = Joi.number().min(-1e9).max(1e9)
const chance = Joi.number().min(0).max(1)
const name = Joi.string().trim().min(1).max(60).required()
const spread = Joi.number().min(0).max(1e9)

const payOffs: Record<PayOff['type'], Joi.SchemaMap> = {
  bernoulli: { chance: chance.required(), reward: reward.default(1) },
  gaussian: { mean: reward.required(), deviation: spread.required() },
  uniform: {
    low: reward.required(),
    high: reward.required().when('low', { is: reward, then: Joi.number().min(Joi.ref('low')) }),
  },
  categorical: {
    outcomes: Joi.array()
      .items(Joi.object({ reward: reward.required(), weight: Joi.number().greater(0).max(1e9).required() }))
      .min(1)
      .max(20)
      .required(),
  },
}
const drifts: Record<Drift['type'], Joi.SchemaMap> = {
  none: {},
  walk: {
    step: Joi.number().greater(0).max(1e9).required(),
    seed: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).default(1),
  },
  switch: { every: Joi.number().integer().min(1).max(PULL_LIMIT).required() },
}

/** An object whose `type` says which fields it has. */
function byType(kinds: Readonly<Record<string, Joi.SchemaMap>>): Joi.ObjectSchema {
  return Joi.object({ type: Joi.string().required() })
    .unknown()
    .when(Joi.ref('.type'), {
      switch: Object.entries(kinds).map(([type, fields]) => ({
        is: type,
        then: Joi.object(fields).unknown(false),
      })),
      otherwise: Joi.object({ type: Joi.string().valid(...Object.keys(kinds)) }),
    })
}

export const banditSchema = Joi.object<Bandit>({
  arms: Joi.array()
    .items(
      Joi.object({ name, pays: Joi.array().items(byType(payOffs)).min(1).max(CONTEXT_LIMIT).required() }),
    )
    .min(1)
    .max(ARM_LIMIT)
    .unique('name')
    .required()
    .messages({ 'array.max': `{{#label}} has {{#value.length}} arms; a bandit may have ${ARM_LIMIT}` }),
  contexts: Joi.array()
    .items(Joi.object({ name, weight: Joi.number().greater(0).max(1e9).default(1) }))
    .max(CONTEXT_LIMIT)
    .unique('name')
    .default([]),
  pulls: Joi.number().integer().min(1).max(PULL_LIMIT).default(1),
  drift: byType(drifts).default({ type: 'none' }),
  anew: spread,
  hidden: Joi.boolean().default(false),
})
