import type { LearnSettings } from '../../../../settings/settings'
import { exportsOf, moduleOf, Room, type Registers } from '../../../../wasm/room'
import { EXPLORATIONS } from '../../../explore/explorations'
import { paysForKernel } from '../../../fast-steps'
import { takeSteps } from '../../../kernel-steps'
import type { Keeping } from '../../../learner'
import { REMEMBERED } from '../../../tabular-learner'
import type { World } from '../../../world'
import { DoubleQLearning } from '../double-q'
import { DOUBLE_STEPS_CODE } from './double-steps-code'
import { ONE_STEP_INTS, ONE_STEP_REALS } from './fast-one-step'
import { bytesOfDraws, movedWorld, rowDrawsOf, type RowDraws } from './row-draws'

/** Registers of the kernel: the order is that of double-steps.as. */
const INTS = [
  ...ONE_STEP_INTS,
  'firstValues',
  'secondValues',
  'firstGreedy',
  'secondGreedy',
  'firstUpdates',
  'secondUpdates',
  'coin',
  'counts',
] as const

const doubleModule = moduleOf(DOUBLE_STEPS_CODE)

/** Double Q-learning with its kernel in WebAssembly where no workings are kept, and it is to be had and pays; else plainly. */
export function createDoubleQ(
  world: World,
  settings: LearnSettings,
  keeps: Keeping = 'workings',
): DoubleQLearning {
  const worthWhile =
    keeps !== 'workings' &&
    EXPLORATIONS[settings.exploration.way].kernels === 'all' &&
    paysForKernel(settings)
  return (worthWhile ? fastDoubleQ(world, settings, keeps) : null) ?? new DoubleQLearning(world, settings)
}

/** @returns null where the kernel does not know the model, or WebAssembly or enough memory is not to be had */
export function fastDoubleQ(world: World, settings: LearnSettings, keeps: Keeping): DoubleQLearning | null {
  const draws = world.model.outcomeDiscount === null ? rowDrawsOf(world) : null
  const code = draws && doubleModule()
  const room = draws && code && sharedRoom(world, settings, draws)
  return draws && code && room ? new FastDoubleQ(world, settings, code, room, draws, keeps) : null
}

function sharedRoom(world: World, settings: LearnSettings, draws: RowDraws): Room | null {
  const { observations, rows } = world.model
  return Room.of(
    bytesOfDraws(world, draws) +
      4 * (observations + 1 + rows + 1 + 3 * world.startState.length) +
      8 * (6 * world.tableRows + 6 * observations) +
      12 * settings.episodes +
      12 * REMEMBERED,
    50,
  )
}

/**
 * Double Q-learning whose steps are taken by double-steps.as when many are asked for. All arrays live in its memory, so that
 * single steps and snapshots are those of the plain learner; a test holds both to the same bits.
 */
class FastDoubleQ extends DoubleQLearning {
  private readonly run: (registers: number) => number
  private readonly registers: Registers<(typeof INTS)[number], (typeof ONE_STEP_REALS)[number]>

  constructor(
    world: World,
    settings: LearnSettings,
    code: WebAssembly.Module,
    room: Room,
    draws: RowDraws,
    keeps: Keeping,
  ) {
    super(world, settings, room, false)
    this.run = exportsOf<Record<RowDraws['layout'], (registers: number) => number>>(code, room, 'The steps')[
      draws.layout
    ]
    this.registers = room.registers(INTS, ONE_STEP_REALS)
    const { mean, both, updates } = this
    this.registers.set({
      ...this.runRegisters(),
      ...movedWorld(world, draws, room, { base: mean.records.byteOffset, size: 16 }),
      values: mean.values,
      greedy: mean.records,
      ties: this.ties.words,
      firstOfTies: settings.ties === 'first' ? 1 : 0,
      firstValues: both[0].values,
      secondValues: both[1].values,
      firstGreedy: both[0].records,
      secondGreedy: both[1].records,
      firstUpdates: updates[0],
      secondUpdates: updates[1],
      coin: this.coin.words,
      counts: keeps === 'visits' ? 1 : 0,
    })
  }

  protected override takeMany(limit: number, until: number): number {
    const { last, registers } = this
    const { whole, reals, int, real } = registers
    reals[real.level] = this.level
    const taken = takeSteps(this, this.run, registers, limit, until)
    this.changes.count = 0
    if (whole[int.ranAway] === 1) {
      this.noteDiverged(reals[real.runaway], this.world.observation[last.state])
    }
    return taken
  }
}
