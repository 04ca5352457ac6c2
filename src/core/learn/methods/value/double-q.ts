import type { Working } from '../../../explain/working'
import { RandomStream } from '../../../random/generator'
import type { Actor } from '../../explore/actor'
import { GreedyTable, plainArrays, type Allocate } from '../../greedy-table'
import type { LearnSettings } from '../../../settings/settings'
import { doubleWorking } from './step-working'
import { DOUBLE_SLOT, DOUBLE_SLOT_SIZE } from '../../slots'
import { TabularLearner } from '../../tabular-learner'
import type { LearnTable } from '../../learner'
import type { World } from '../../world'

/**
 * Double Q-learning (van Hasselt 2010; Sutton & Barto 2018, section 6.7): two tables, of which a fair coin picks the one
 * to write. The one that is written says which action is best next, the other one what it is worth: chance that made
 * a value too large in one table is not counted twice. The agent acts by the mean of both, which is its table.
 */
export class DoubleQLearning extends TabularLearner {
  protected readonly actor: Actor
  protected readonly mean: GreedyTable
  protected readonly both: readonly [GreedyTable, GreedyTable]
  protected readonly coin: RandomStream
  /** [2][tableRows] updates of each table so far */
  protected readonly updates: readonly [Float64Array, Float64Array]

  constructor(
    world: World,
    settings: LearnSettings,
    allocate: Allocate = plainArrays,
    /** Whether what each update was made of is kept, to be explained later. */
    private readonly keepsWorkings = true,
  ) {
    super(world, settings, keepsWorkings ? DOUBLE_SLOT_SIZE : 0, allocate)
    const { tableStart, tableRows } = world
    this.mean = new GreedyTable(tableStart, allocate)
    this.both = [new GreedyTable(tableStart, allocate), new GreedyTable(tableStart, allocate)]
    this.coin = new RandomStream(settings.seed, 'method', settings.run, allocate.ints(4))
    this.updates = [allocate.floats(tableRows), allocate.floats(tableRows)]
    this.fillStart(this.mean.values)
    this.copyToBoth()
    this.actor = this.actorOn(this.mean)
  }

  get table(): Float64Array {
    return this.mean.values
  }

  override tables(): Readonly<Record<string, LearnTable>> {
    const [first, second] = this.both
    return {
      ...super.tables(),
      'first table': { holds: 'action values', numbers: first.values },
      'second table': { holds: 'action values', numbers: second.values },
    }
  }

  override begin(table: Float64Array): void {
    super.begin(table)
    this.copyToBoth()
  }

  working(observation: number): Working | undefined {
    if (!this.keepsWorkings) return undefined
    const at = observation * DOUBLE_SLOT_SIZE
    return doubleWorking(
      this.world,
      this.settingsOf(observation),
      this.slots.subarray(at, at + DOUBLE_SLOT_SIZE),
    )
  }

  protected override learn(
    observation: number,
    row: number,
    reward: number,
    next: number,
    ended: boolean,
  ): void {
    const { slots, mean } = this
    const second = this.coin.next() < 0 ? 1 : 0
    const written = this.both[second]
    const other = this.both[1 - second]
    const nextRow = ended ? -1 : written.pick(next, this.settings.ties === 'random' ? this.coin : null)
    const ahead = ended ? 0 : other.values[nextRow]
    const old = written.values[row]
    const rate = this.rateAt(++this.updates[second][row])
    const value = old + rate * (reward + this.discount * ahead - old)
    if (!this.sound(value, observation)) return
    this.noteChange(row, mean.values[row])
    written.write(observation, row, value)
    mean.write(observation, row, (value + other.values[row]) / 2)
    if (!this.keepsWorkings) return
    const at = this.noteUpdate(observation, row, old, value, reward, ahead, rate)
    slots[at + DOUBLE_SLOT.second] = second
    slots[at + DOUBLE_SLOT.nextRow] = nextRow
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return {
      ...super.keptArrays(),
      first: this.both[0].values,
      second: this.both[1].values,
      coin: this.coin.words,
      firstUpdates: this.updates[0],
      secondUpdates: this.updates[1],
    }
  }

  protected override tableChanged(): void {
    for (const each of [this.mean, ...this.both]) each.refreshAll()
  }

  private copyToBoth(): void {
    for (const each of this.both) each.values.set(this.mean.values)
    this.tableChanged()
  }
}
