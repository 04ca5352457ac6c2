import type { Working } from '../../../explain/working'
import { RandomStream } from '../../../random/generator'
import type { Actor } from '../../explore/actor'
import { GreedyTable } from '../../greedy-table'
import type { LearnSettings } from '../../../settings/settings'
import { doubleWorking } from './step-working'
import { DOUBLE_SLOT, DOUBLE_SLOT_SIZE } from '../../slots'
import { TabularLearner } from '../../tabular-learner'
import type { World } from '../../world'

/**
 * Double Q-learning (van Hasselt 2010; Sutton & Barto 2018, section 6.7): two tables, of which a fair coin picks the one
 * to write. The one that is written says which action is best next, the other one what it is worth: chance that made
 * a value too large in one table is not counted twice. The agent acts by the mean of both, which is its table.
 */
export class DoubleQLearning extends TabularLearner {
  protected readonly actor: Actor
  private readonly mean: GreedyTable
  private readonly tables: readonly [GreedyTable, GreedyTable]
  private readonly coin: RandomStream
  /** [2][tableRows] updates of each table so far */
  private readonly updates: readonly [Float64Array, Float64Array]

  constructor(world: World, settings: LearnSettings) {
    super(world, settings, DOUBLE_SLOT_SIZE)
    const { tableStart } = world
    this.mean = new GreedyTable(tableStart)
    this.tables = [new GreedyTable(tableStart), new GreedyTable(tableStart)]
    this.coin = new RandomStream(settings.seed, 'method', settings.run)
    this.updates = [new Float64Array(world.tableRows), new Float64Array(world.tableRows)]
    this.fillStart(this.mean.values)
    this.copyToBoth()
    this.actor = this.actorOn(this.mean)
  }

  get table(): Float64Array {
    return this.mean.values
  }

  override begin(table: Float64Array): void {
    super.begin(table)
    this.copyToBoth()
  }

  working(group: number): Working | undefined {
    const at = group * DOUBLE_SLOT_SIZE
    return doubleWorking(this.world, this.settingsOf(group), this.slots.subarray(at, at + DOUBLE_SLOT_SIZE))
  }

  protected override learn(group: number, row: number, reward: number, next: number, ended: boolean): void {
    const { slots, mean } = this
    const second = this.coin.next() < 0 ? 1 : 0
    const written = this.tables[second]
    const other = this.tables[1 - second]
    const nextRow = ended ? -1 : written.pick(next, this.settings.ties === 'random' ? this.coin : null)
    const ahead = ended ? 0 : other.values[nextRow]
    const old = written.values[row]
    const rate = this.rateAt(++this.updates[second][row])
    const value = old + rate * (reward + this.discount * ahead - old)
    if (!this.sound(value, group)) return
    this.noteChange(row, mean.values[row])
    written.write(group, row, value)
    mean.write(group, row, (value + other.values[row]) / 2)
    const at = this.noteUpdate(group, row, old, value, reward, ahead, rate)
    slots[at + DOUBLE_SLOT.second] = second
    slots[at + DOUBLE_SLOT.nextRow] = nextRow
  }

  protected override keptArrays(): Record<string, Float64Array | Int32Array> {
    return {
      ...super.keptArrays(),
      first: this.tables[0].values,
      second: this.tables[1].values,
      coin: this.coin.words,
      firstUpdates: this.updates[0],
      secondUpdates: this.updates[1],
    }
  }

  protected override tableChanged(): void {
    for (const each of [this.mean, ...this.tables]) each.refreshAll()
  }

  private copyToBoth(): void {
    for (const each of this.tables) each.values.set(this.mean.values)
    this.tableChanged()
  }
}
