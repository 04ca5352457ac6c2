import { num, say, type Working } from '../../../explain/working'
import type { LearnSettings } from '../../../settings/settings'
import { ControlLearner } from '../../control-learner'
import { SLOT, SLOT_SIZE } from '../../slots'
import type { World } from '../../world'
import { newValueLine, towards } from './step-working'

/**
 * An agent for bandits: the value of an action moves towards its reward alone, and nothing that comes after it counts
 * (Sutton & Barto 2018, sections 2.4 and 2.5). With a rate of 1/n it is the mean of its rewards; of contexts each has a
 * table of its own.
 */
export class BanditValues extends ControlLearner {
  constructor(world: World, settings: LearnSettings) {
    super(world, settings, SLOT_SIZE)
  }

  working(observation: number): Working | undefined {
    const { world, slots } = this
    const slot = (field: number) => slots[observation * this.slotSize + field]
    const row = slot(SLOT.row)
    if (row < 0) return undefined
    const { labels, actions } = world.model
    const [old, reward, rate] = [slot(SLOT.old), slot(SLOT.reward), slot(SLOT.rate)]
    return {
      title: `${labels[world.someState(observation)]}, ${actions[world.tableAction[row]]}, step ${slot(SLOT.step) + 1}`,
      ...towards('Q(a)', 'Q(a)', [say('reward', 'reward')], String.raw`\paid{r}`),
      lines: [
        {
          label: 'error',
          parts: [num('reward', reward), say('−'), num('old', old), say('='), num('plain', reward - old)],
        },
        newValueLine(old, rate, reward - old, slot(SLOT.result)),
      ],
    }
  }

  protected override learn(observation: number, row: number, reward: number): void {
    const { greedy } = this
    const old = greedy.values[row]
    const rate = this.rateAt(this.visits[row])
    const value = old + rate * (reward - old)
    if (!this.sound(value, observation)) return
    this.noteChange(row, old)
    greedy.write(observation, row, value)
    this.noteUpdate(observation, row, old, value, reward, 0, rate)
  }
}
