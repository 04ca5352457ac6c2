import { EXPLORATIONS, type ExplorationWay } from '../learn/explore/explorations'
import { constant, scheduleInBrief, type Schedule } from '../learn/schedule'
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
  flag: {
    name: 'exploration',
    argument: '<number>',
    help: 'the number of its way: the chance of a random action, a temperature, a width; default that of the way',
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
