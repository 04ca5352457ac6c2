import Joi from 'joi'
import type { PayOff } from './pay-off'

export interface Arm {
  readonly name: string
  /** What a pull pays: one entry for each context, or a single one that holds in all. */
  readonly pays: readonly PayOff[]
}

/** How pay-offs change while an episode goes on; the agent does not see the number of the pull. */
export type Drift =
  | { readonly type: 'none' }
  /** Every arm's mean takes a Gaussian step before each pull after the first, drawn once from the seed. */
  | { readonly type: 'walk'; readonly step: number; readonly seed: number }
  /** Every so many pulls each arm takes over what the arm before it paid, the first what the last paid. */
  | { readonly type: 'switch'; readonly every: number }

/** The bandit part of an environment document. */
export interface Bandit {
  readonly arms: readonly Arm[]
  /** What the agent sees before a pull, drawn anew each time by weight; a single one when empty. */
  readonly contexts: readonly { readonly name: string; readonly weight: number }[]
  /** Pulls in an episode. */
  readonly pulls: number
  readonly drift: Drift
  /** The class sees no pay-offs and nothing computed from them. */
  readonly hidden: boolean
}

export const ARM_LIMIT = 100
export const CONTEXT_LIMIT = 20
export const PULL_LIMIT = 10_000

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
  hidden: Joi.boolean().default(false),
})
