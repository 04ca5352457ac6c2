import type { LearnSettings } from '../../../../settings/settings'
import { exportsOf, moduleOf, Room, type Registers } from '../../../../wasm/room'
import { paysForKernel } from '../../../fast-steps'
import { FOLLOWING_INTS, FOLLOWING_REALS, takeSteps } from '../../../kernel-steps'
import type { Keeping } from '../../../learner'
import { REMEMBERED } from '../../../tabular-learner'
import type { World } from '../../../world'
import { bytesOfDraws, movedWorld, rowDrawsOf, type RowDraws } from '../../value/wasm/row-draws'
import { TdPrediction } from '../td'
import { TD_STEPS_CODE } from './td-steps-code'

/** Registers of the kernel: the order is that of td-steps.as. */
const INTS = [
  ...FOLLOWING_INTS,
  'traces',
  'traceCells',
  'traceCount',
  'replacing',
  'unsound',
  'otherTraces',
  'otherCells',
  'goneCells',
] as const
const REALS = [...FOLLOWING_REALS, 'lambda'] as const

const tdModule = moduleOf(TD_STEPS_CODE)

/** TD(λ) with its kernel in WebAssembly where no workings are kept, and it is to be had and pays; else plainly. */
export function createTd(
  world: World,
  settings: LearnSettings,
  lambda: number,
  keeps: Keeping = 'workings',
): TdPrediction {
  const worthWhile = keeps !== 'workings' && paysForKernel(settings)
  return (
    (worthWhile ? fastTd(world, settings, lambda, keeps) : null) ?? new TdPrediction(world, settings, lambda)
  )
}

/** @returns null where the kernel does not know the model, or WebAssembly or enough memory is not to be had */
export function fastTd(
  world: World,
  settings: LearnSettings,
  lambda: number,
  keeps: Keeping,
): TdPrediction | null {
  const draws = world.model.outcomeDiscount === null ? rowDrawsOf(world) : null
  const code = draws && tdModule()
  const room = draws && code && sharedRoom(world, settings, draws)
  return draws && code && room ? new FastTd(world, settings, lambda, code, room, draws, keeps) : null
}

function sharedRoom(world: World, settings: LearnSettings, draws: RowDraws): Room | null {
  const { observations, rows } = world.model
  return Room.of(
    bytesOfDraws(world, draws) +
      4 * (observations + 1 + rows + 1 + 3 * world.startState.length) +
      8 * (2 * world.tableRows + 5 * observations) +
      4 * (observations + 1) +
      12 * settings.episodes +
      12 * REMEMBERED,
    43,
  )
}

/**
 * TD(λ) whose steps are taken by td-steps.as when many are asked for. All arrays live in its memory, so that single steps and
 * snapshots are those of the plain learner; a test holds both to the same bits.
 */
class FastTd extends TdPrediction {
  private readonly run: (registers: number) => number
  private readonly registers: Registers<(typeof INTS)[number], (typeof REALS)[number]>

  constructor(
    world: World,
    settings: LearnSettings,
    lambda: number,
    code: WebAssembly.Module,
    room: Room,
    draws: RowDraws,
    keeps: Keeping,
  ) {
    super(world, settings, lambda, room, false)
    const kernels = exportsOf<Record<string, (registers: number) => number>>(code, room, 'The steps')
    // Without traces only the state just left is updated.
    this.run = kernels[lambda === 0 ? draws.layout : draws.layout === 'Many' ? 'ManyTraces' : 'FewTraces']
    this.registers = room.registers(INTS, REALS)
    const { traces } = this
    const { learningRate } = settings
    const byVisits = learningRate.kind === 'visits'
    this.registers.set({
      ...this.runRegisters(),
      ...movedWorld(world, draws, room, { base: this.table.byteOffset, size: 8 }),
      chances: room.copiedFloats(world.toTableRows(settings.policy)),
      values: this.table,
      updates: this.updates,
      traces: traces.values,
      traceCells: traces.cells,
      traceCount: traces.counted,
      otherTraces: room.floats(world.model.observations),
      otherCells: room.ints(world.model.observations),
      goneCells: room.ints(world.model.observations),
      replacing: settings.traces === 'replacing' ? 1 : 0,
      lambda,
      counts: (keeps === 'visits' ? 1 : 0) + (byVisits ? 2 : 0),
    })
  }

  protected override takeMany(limit: number, until: number): number {
    const { registers } = this
    const { whole, reals, int, real } = registers
    const taken = takeSteps(this, this.run, registers, limit, until)
    this.changes.count = 0
    if (whole[int.ranAway] === 1) this.noteDiverged(reals[real.runaway], whole[int.unsound])
    return taken
  }
}
