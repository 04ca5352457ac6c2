import Joi from 'joi'

// What programs send and get, as docs/protocol.md tells it: the description of the interface is made from these.

const whole = Joi.number().integer()
const seed = whole.min(0).max(2 ** 32 - 1)
const id = Joi.string()

export const beginBody = Joi.object({
  exercise: id.max(100).required().description('The id of an exercise of the class.'),
  level: Joi.string().max(80).description('The name of a level; the first one when left out.'),
  episodes: whole.min(1).max(1024).default(1).description('How many are played at once.'),
  seed: seed
    .allow(null)
    .default(null)
    .description('The same seed meets the same chance; null for a new one each time.'),
}).required()

export const stepsBody = Joi.object({
  number: whole
    .min(1)
    .required()
    .description(
      'One more than that of the request before. The same number again is answered as before, and changes nothing.',
    ),
  actions: Joi.array()
    .items(whole.min(0))
    .max(1024)
    .required()
    .description('For each open episode, in their order, the index of an action.'),
}).required()

export const handInBody = Joi.object({
  exercise: id.max(100).required().description('The id of an exercise that takes programs.'),
}).required()

export const partBody = Joi.object({
  part: whole.min(0).max(100).required().description('The number of the part, from 0.'),
}).required()

/** What is answered. */
export const handedOut = Joi.array().items(
  Joi.object({
    exercise: id.required(),
    name: Joi.string().required(),
    levels: Joi.array()
      .items(Joi.object({ name: Joi.string().required(), points: Joi.number().required() }))
      .required(),
    takesPrograms: Joi.boolean().required().description('Whether a program may hand in.'),
  }),
)

const session = {
  session: id.required(),
  exercise: id.required(),
  level: Joi.string().required(),
  seed: seed.allow(null).required().description('Null where it is not told.'),
  number: whole.min(0).required().description('Of the last request for steps; 0 before the first one.'),
  open: Joi.array().items(whole.min(0)).required().description('The numbers of the episodes that go on.'),
  observations: Joi.array().items(whole.min(0)).required().description('What is seen in each open episode.'),
}

export const sessionAnswer = Joi.object(session)

export const begunAnswer = Joi.object({
  ...session,
  actions: Joi.array()
    .items(Joi.string())
    .required()
    .description('The names of the actions, by their index.'),
  names: Joi.array()
    .items(Joi.string())
    .allow(null)
    .required()
    .description('The names of what can be seen, by number; null where there are more than 10,000.'),
  possible: Joi.array()
    .items(Joi.array().items(whole.min(0)))
    .allow(null)
    .required()
    .description('By what is seen, the actions that are possible; null where there are more than 10,000.'),
  stepLimit: whole.min(1).required().description('Steps after which an episode is cut off.'),
  discount: Joi.number().min(0).max(1).required(),
})

export const sessionsAnswer = Joi.array().items(sessionAnswer)

export const stepsAnswer = Joi.object({
  number: whole.min(1).required(),
  observations: Joi.array()
    .items(whole.min(0))
    .required()
    .description('By episode that was open: what is seen after the step.'),
  rewards: Joi.array().items(Joi.number()).required(),
  states: Joi.array()
    .items(whole.valid(0, 1, 2))
    .required()
    .description('0: it goes on; 1: it has ended; 2: the step limit cut it off.'),
  open: Joi.array().items(whole.min(0)).required().description('The numbers of the episodes that go on.'),
})

export const handInAnswer = Joi.object({
  handIn: id.required(),
  state: Joi.valid('playing', 'waiting', 'scored', 'refused', 'abandoned').required(),
  parts: Joi.array()
    .items(
      Joi.object({
        level: Joi.string().required(),
        episodes: whole.min(1).required(),
        state: Joi.valid('to play', 'playing', 'played').required(),
      }),
    )
    .required(),
  points: Joi.number()
    .allow(null)
    .required()
    .description('On the seed that students may see; null until it is scored.'),
})

export const problemAnswer = Joi.object({
  problems: Joi.array()
    .items(
      Joi.object({
        place: Joi.string().required(),
        cause: Joi.string().required(),
        remedy: Joi.string().allow('').required(),
      }),
    )
    .required(),
})
