import Joi from 'joi'
import { EXPLORATION_WAYS, EXPLORATIONS, type ExplorationWay } from '../learn/explore/explorations'
import { constant, scheduleInBrief, type Schedule } from '../learn/schedule'
import { scheduleSchema } from './schedule-schema'
import { own } from './setting'

export interface Exploration {
  readonly way: ExplorationWay
  /** The number of its way: the chance of a random action, the temperature … */
  readonly level: Schedule
}

export const exploration = own<Exploration>({
  label: 'Exploration',
  hint: 'How an agent comes to try what does not look best.',
  usual: { way: 'epsilon-greedy', level: constant(EXPLORATIONS['epsilon-greedy'].usual) },
  schema: Joi.alternatives(
    ...EXPLORATION_WAYS.map((way) =>
      Joi.object({
        way: Joi.valid(way).required(),
        level: scheduleSchema(EXPLORATIONS[way].range, false).required(),
      }),
    ),
  ).messages({
    'alternatives.match': `{{#label}} needs a way (${EXPLORATION_WAYS.join(' or ')}) and a level, which is a schedule`,
  }),
  flag: {
    name: 'exploration',
    argument: '<number>',
    help: 'the chance of a random action, 0 to 1; default 0.1',
  },
  fromFlag: {
    range: EXPLORATIONS['epsilon-greedy'].range,
    read: (level) => ({ way: 'epsilon-greedy', level: constant(level) }),
  },
  brief: '',
  inBrief: ({ way, level }) => `${EXPLORATIONS[way].brief} ${scheduleInBrief(level)}`,
})

/** A way of exploring, with a number that suits it. */
export function explorationOf(way: ExplorationWay): Exploration {
  return { way, level: constant(EXPLORATIONS[way].usual) }
}
