import { num, say, type Part, type Working } from '../explain/working'
import { greedyPolicy } from '../plan/backup'
import { BLOCK, RandomStream, UNIT } from '../random/generator'
import { EpisodeLog } from './episode-log'
import { GreedyTable } from './greedy-table'
import type { LastStep, Learner, LearnSettings } from './learner'
import { HALF_UNIT, type World } from './world'

/**
 * Numbers of an update kept for each observation, so that it can be explained later: row, old value, reward, next
 * state, next row, value looked ahead to, new value, step.
 */
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
/** Random numbers of a stream that one step may take. */
const ENOUGH = 4

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
   * The kernel. Everything it touches lives in locals, and the inner loop calls nothing: after a call the engine
   * would have to look up every array again, which halves the speed. So stepping, choosing and the upkeep of the
   * maxima are written out, and random numbers are made ready outside of it. What it has to agree with, bit by bit,
   * is written with lists and scans in the test.
   */
  advance(limit: number, untilEpisodeEnds = false): number {
    const { world, environment, exploration, ties, onPolicy, trace, visits, whole, real, log } = this
    const { learningRate, discount, cap } = this.settings
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
    const { startState, startThreshold, startGuide } = world
    const { values, best, first, count } = this.actionValues
    const { returns } = log
    const capacity = returns.length
    const starts = startState.length
    const outcomeBlock = environment.block
    const exploreBlock = exploration.block
    const tieBlock = ties.block
    const exploreBelow = this.settings.exploration * 4294967296
    const before = this.steps
    let state = whole[WHOLE.state]
    let chosen = whole[WHOLE.chosen]
    let exploring = whole[WHOLE.exploring]
    let age = whole[WHOLE.age]
    let returned = real[REAL.returned]
    let power = real[REAL.power]
    let episode = log.count
    let taken = 0
    let stopped = false
    while (taken < limit && !stopped) {
      if (environment.position > BLOCK - ENOUGH) environment.prepare()
      if (exploration.position > BLOCK - ENOUGH) exploration.prepare()
      if (ties.position > BLOCK - ENOUGH) ties.prepare()
      let outcomeAt = environment.position
      let exploreAt = exploration.position
      let tieAt = ties.position
      const last = BLOCK - ENOUGH
      const unit = UNIT
      const halfUnit = HALF_UNIT
      while (taken < limit && outcomeAt <= last && exploreAt <= last && tieAt <= last) {
        if (state < 0) {
          if (episode >= capacity) {
            stopped = true
            break
          }
          if (starts === 1) state = startState[0]
          else {
            const draw = outcomeBlock[outcomeAt++] >>> 1
            let i = startGuide[(draw * starts * halfUnit) | 0]
            while (draw >= startThreshold[i]) i++
            state = startState[i]
          }
          chosen = -1
          age = 0
          returned = 0
          power = 1
        }
        const group = observation[state]
        const groupStart = tableStart[group]
        let row = chosen
        let nextRow = -1
        let next = 0
        let nextGroup = 0
        let reward = 0
        let ended = 0
        let explored = exploring
        // Round 0 chooses where the agent stands (SARSA has done so already, but for an episode's first step) and
        // steps; round 1 only steps; round 2 chooses SARSA's next action, before the update.
        for (let round = chosen < 0 ? 0 : 1; round < 3; round++) {
          if (round !== 1) {
            const chooseFor = round === 0 ? group : nextGroup
            let picked = first[chooseFor]
            exploring = exploreBlock[exploreAt++] >>> 0 < exploreBelow ? 1 : 0
            if (exploring === 1) {
              const from = tableStart[chooseFor]
              picked =
                from + (((exploreBlock[exploreAt++] >>> 0) * unit * (tableStart[chooseFor + 1] - from)) | 0)
            } else if (count[chooseFor] > 1) {
              const top = best[chooseFor]
              for (let skip = ((tieBlock[tieAt++] >>> 0) * unit * count[chooseFor]) | 0; skip > 0; skip--)
                do picked++
                while (values[picked] !== top)
            }
            if (round === 2) {
              nextRow = picked
              break
            }
            row = picked
            explored = exploring
          }
          round = 1
          const modelRow = rowStart[state] + row - groupStart
          let outcome = outcomeStart[modelRow]
          if (outcomeStart[modelRow + 1] - outcome > 1) {
            const draw = outcomeBlock[outcomeAt++] >>> 1
            while (draw >= threshold[outcome]) outcome++
          }
          next = outcomeState[outcome]
          reward = outcomeReward[outcome]
          nextGroup = observation[next]
          ended = ending[next]
          if (!onPolicy || ended === 1) break
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
        } else if (old === top ? value !== top : value === top) {
          const end = tableStart[group + 1]
          let highest = values[groupStart]
          let where = groupStart
          let shared = 1
          for (let r = groupStart + 1; r < end; r++) {
            const other = values[r]
            if (other > highest) {
              highest = other
              where = r
              shared = 1
            } else if (other === highest) shared++
          }
          best[group] = highest
          first[group] = where
          count[group] = shared
        }

        const at = group * 8
        trace[at] = row
        trace[at + 1] = old
        trace[at + 2] = reward
        trace[at + 3] = next
        trace[at + 4] = nextRow
        trace[at + 5] = nextValue
        trace[at + 6] = value
        trace[at + 7] = before + taken
        visits[row]++
        returned += power * reward
        power *= discount
        taken++
        age++
        // The last step, for readouts: stored at once, because registers are scarcer here than stores.
        whole[4] = state
        whole[5] = row
        whole[6] = next
        whole[7] = explored
        whole[8] = ended
        real[2] = reward
        if (ended === 1 || age >= cap) {
          returns[episode++] = returned
          state = -1
          if (untilEpisodeEnds) {
            stopped = true
            break
          }
        } else {
          state = next
          chosen = nextRow
        }
      }
      environment.position = outcomeAt
      exploration.position = exploreAt
      ties.position = tieAt
    }
    whole[WHOLE.state] = state
    whole[WHOLE.chosen] = chosen
    whole[WHOLE.exploring] = exploring
    whole[WHOLE.age] = age
    real[REAL.returned] = returned
    real[REAL.power] = power
    log.count = episode
    this.steps = before + taken
    return taken
  }

  working(group: number): Working | undefined {
    const at = group * TRACE_SIZE
    const { world, trace, onPolicy } = this
    const row = trace[at]
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
