import { num, say, type Part, type Working } from '../explain/working'
import { greedyPolicy } from '../plan/backup'
import { BLOCK, RandomStream, UNIT } from '../random/generator'
import { EpisodeLog } from './episode-log'
import { GreedyTable } from './greedy-table'
import type { LastStep, Learner, LearnSettings } from './learner'
import type { World } from './world'

/** Fields of an update kept for each observation, so that it can be explained later. */
const TRACE = { row: 0, old: 1, reward: 2, next: 3, nextRow: 4, nextValue: 5, result: 6, step: 7 } as const
const TRACE_SIZE = 8
/** Where the agent stands, the row chosen there (-1: none yet) and so on; then the last step, for readouts. */
const WHOLE = {
  state: 0,
  chosen: 1,
  exploring: 2,
  age: 3,
  lastState: 4,
  row: 5,
  next: 6,
  explored: 7,
  ended: 8,
} as const
const WHOLE_SIZE = 9
const REAL = { returned: 0, power: 1, reward: 2 } as const
const REAL_SIZE = 3
/** 2^32 */
const FULL = 4294967296

/**
 * One-step control with a table of action values and constant exploration.
 *
 * - Q-learning (Watkins 1989; Sutton & Barto 2018, section 6.5): the target is reward + discount x the best action
 *   value of what comes next. The next action is chosen after the update.
 * - SARSA (Rummery & Niranjan 1994; Sutton & Barto 2018, section 6.4): the target uses the action that will really
 *   be taken next, chosen before the update.
 *
 * Endings have value 0. A cap cuts the episode off but is no ending: the target still looks ahead there.
 * Greedy choices break ties at random; exploring picks among all actions, the greedy one included.
 */
export class TemporalDifference implements Learner {
  readonly log: EpisodeLog
  readonly visits: Float64Array
  steps = 0
  private readonly actionValues: GreedyTable
  private readonly trace: Float64Array
  private readonly environment: RandomStream
  private readonly exploration: RandomStream
  private readonly ties: RandomStream
  /**
   * Where the kernel left off. In typed arrays, because the loop's variables then start out as plain machine
   * numbers; from fields they would be boxed anew at every step.
   */
  private readonly whole = new Int32Array(WHOLE_SIZE).fill(-1)
  private readonly real = new Float64Array(REAL_SIZE)

  constructor(
    readonly world: World,
    readonly settings: LearnSettings,
    /** True for SARSA, false for Q-learning. */
    private readonly onPolicy: boolean,
  ) {
    this.log = new EpisodeLog(settings.episodes)
    this.actionValues = new GreedyTable(world.tableStart)
    this.visits = new Float64Array(world.tableRows)
    this.trace = new Float64Array(world.model.observations * TRACE_SIZE).fill(-1)
    this.environment = new RandomStream(settings.seed, 'environment', settings.run)
    this.exploration = new RandomStream(settings.seed, 'exploration', settings.run)
    this.ties = new RandomStream(settings.seed, 'ties', settings.run)
  }

  get table(): Float64Array {
    return this.actionValues.values
  }

  get state(): number {
    return this.whole[WHOLE.state]
  }

  get age(): number {
    return this.whole[WHOLE.age]
  }

  get last(): LastStep {
    const { whole, real } = this
    return {
      state: whole[WHOLE.lastState],
      row: whole[WHOLE.row],
      reward: real[REAL.reward],
      next: whole[WHOLE.next],
      explored: whole[WHOLE.explored] === 1,
      ended: whole[WHOLE.state] >= 0 ? 'no' : whole[WHOLE.ended] === 1 ? 'ending' : 'cap',
    }
  }

  policy(): Float64Array {
    return greedyPolicy(this.world.tableStart, this.table)
  }

  /**
   * The kernel. Everything it touches lives in locals while the loop runs, and stepping, choosing and the upkeep of
   * the maxima are written out: fields and calls made it slower by half when measured.
   */
  advance(limit: number, untilEpisodeEnds = false): number {
    const { world, environment, exploration, ties, onPolicy, trace, visits, whole, real, log, actionValues } =
      this
    const { learningRate, discount, cap, episodes } = this.settings
    const {
      observation,
      ending,
      tableStart,
      rowStart,
      outcomeStart,
      outcomeState,
      outcomeReward,
      threshold,
    } = world
    const { values, best, first, count } = actionValues
    const outcomeBlock = environment.block
    const exploreBlock = exploration.block
    const tieBlock = ties.block
    const exploreBelow = this.settings.exploration * FULL
    let outcomeAt = environment.position
    let exploreAt = exploration.position
    let tieAt = ties.position
    let state = whole[WHOLE.state]
    let chosen = whole[WHOLE.chosen]
    let exploring = whole[WHOLE.exploring]
    let age = whole[WHOLE.age]
    let lastState = whole[WHOLE.lastState]
    let row = whole[WHOLE.row]
    let next = whole[WHOLE.next]
    let explored = whole[WHOLE.explored]
    let ended = whole[WHOLE.ended]
    let returned = real[REAL.returned]
    let power = real[REAL.power]
    let reward = real[REAL.reward]
    const before = this.steps
    let taken = 0
    while (taken < limit) {
      if (state < 0) {
        if (log.count >= episodes) break
        environment.position = outcomeAt
        state = world.begin(environment)
        outcomeAt = environment.position
        chosen = -1
        age = 0
        returned = 0
        power = 1
      }
      const group = observation[state]
      const groupStart = tableStart[group]
      // Q-learning chooses now, on the table as it stands; SARSA has chosen already, but for an episode's first step.
      let chooseFor = chosen < 0 ? group : -1
      row = chosen
      let nextGroup = -1
      let nextRow = -1
      for (;;) {
        if (chooseFor >= 0) {
          if (exploreAt === BLOCK) {
            exploration.refill()
            exploreAt = 0
          }
          exploring = exploreBlock[exploreAt++] >>> 0 < exploreBelow ? 1 : 0
          let picked: number
          if (exploring === 1) {
            if (exploreAt === BLOCK) {
              exploration.refill()
              exploreAt = 0
            }
            const from = tableStart[chooseFor]
            picked =
              from + (((exploreBlock[exploreAt++] >>> 0) * UNIT * (tableStart[chooseFor + 1] - from)) | 0)
          } else {
            picked = first[chooseFor]
            const shared = count[chooseFor]
            if (shared > 1) {
              if (tieAt === BLOCK) {
                ties.refill()
                tieAt = 0
              }
              const top = best[chooseFor]
              for (let skip = ((tieBlock[tieAt++] >>> 0) * UNIT * shared) | 0; skip > 0; skip--)
                do picked++
                while (values[picked] !== top)
            }
          }
          if (nextGroup >= 0) {
            nextRow = picked
            break
          }
          row = picked
        }
        explored = exploring
        let outcome = rowStart[state] + row - groupStart
        const outcomeEnd = outcomeStart[outcome + 1]
        outcome = outcomeStart[outcome]
        if (outcomeEnd - outcome > 1) {
          if (outcomeAt === BLOCK) {
            environment.refill()
            outcomeAt = 0
          }
          const draw = outcomeBlock[outcomeAt++] >>> 1
          while (draw >= threshold[outcome]) outcome++
        }
        next = outcomeState[outcome]
        reward = outcomeReward[outcome]
        nextGroup = observation[next]
        ended = ending[next]
        if (!onPolicy || ended === 1) break
        chooseFor = nextGroup
      }

      const nextValue = nextRow < 0 ? best[nextGroup] : values[nextRow]
      const old = values[row]
      const value = old + learningRate * (reward + discount * nextValue - old)
      values[row] = value
      const top = best[group]
      if (value > top) {
        best[group] = value
        first[group] = row
        count[group] = 1
      } else if (old === top ? value !== top : value === top) actionValues.refresh(group)

      const at = group * TRACE_SIZE
      trace[at + TRACE.row] = row
      trace[at + TRACE.old] = old
      trace[at + TRACE.reward] = reward
      trace[at + TRACE.next] = next
      trace[at + TRACE.nextRow] = nextRow
      trace[at + TRACE.nextValue] = nextValue
      trace[at + TRACE.result] = value
      trace[at + TRACE.step] = before + taken
      visits[row]++
      returned += power * reward
      power *= discount
      taken++
      age++
      lastState = state
      if (ended === 1 || age >= cap) {
        log.add(returned)
        state = -1
        if (untilEpisodeEnds) break
      } else {
        state = next
        chosen = nextRow
      }
    }
    environment.position = outcomeAt
    exploration.position = exploreAt
    ties.position = tieAt
    whole[WHOLE.state] = state
    whole[WHOLE.chosen] = chosen
    whole[WHOLE.exploring] = exploring
    whole[WHOLE.age] = age
    whole[WHOLE.lastState] = lastState
    whole[WHOLE.row] = row
    whole[WHOLE.next] = next
    whole[WHOLE.explored] = explored
    whole[WHOLE.ended] = ended
    real[REAL.returned] = returned
    real[REAL.power] = power
    real[REAL.reward] = reward
    this.steps = before + taken
    return taken
  }

  working(group: number): Working | undefined {
    const at = group * TRACE_SIZE
    const { world, trace, onPolicy } = this
    const row = trace[at + TRACE.row]
    if (row < 0) return undefined
    const { labels, actions } = world.model
    const { learningRate, discount } = this.settings
    const [old, reward, next, nextRow, nextValue, result, step] = [1, 2, 3, 4, 5, 6, 7].map(
      (field) => trace[at + field],
    )
    const target = reward + discount * nextValue
    const ended = world.ending[next] === 1
    const nextLabel = ended
      ? `0, because ${labels[next]} is an ending`
      : onPolicy
        ? `the value of ${actions[world.tableAction[nextRow]]} in ${labels[next]}, the action taken next`
        : `the largest action value of ${labels[next]}`
    const rule: Part[] = [
      say('Q(s, a) ←'),
      say('Q(s, a)', 'old'),
      say('+'),
      say('learning rate', 'rate'),
      say('× ('),
      say('reward', 'reward'),
      say('+'),
      say('discount', 'rate'),
      say('×'),
      say(onPolicy ? 'Q(next, next action)' : 'max Q(next, ·)', 'next'),
      say('−'),
      say('Q(s, a)', 'old'),
      say(')'),
    ]
    return {
      title: `${labels[this.someState(group)]}, ${actions[world.tableAction[row]]}, step ${step + 1}`,
      formula: rule,
      lines: [
        {
          label: 'target',
          parts: [
            num('reward', reward),
            say('+'),
            num('rate', discount),
            say('×'),
            num('next', nextValue, next),
            say('='),
            num('plain', target),
          ],
        },
        {
          label: 'error',
          parts: [num('plain', target), say('−'), num('old', old), say('='), num('plain', target - old)],
        },
        {
          label: 'new value',
          parts: [
            num('old', old),
            say('+'),
            num('rate', learningRate),
            say('×'),
            num('plain', target - old),
            say('='),
            num('result', result),
          ],
          strong: true,
        },
      ],
      note: `The look ahead is ${nextLabel}.`,
    }
  }

  private someState(group: number): number {
    return this.world.observation.indexOf(group)
  }
}
