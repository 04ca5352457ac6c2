import type { LearnSettings } from '../../../../settings/settings'
import { exportsOf, moduleOf, Room, type Registers } from '../../../../wasm/room'
import { EXPLORATIONS } from '../../../explore/explorations'
import { paysForKernel } from '../../../fast-steps'
import { takeSteps } from '../../../kernel-steps'
import type { Keeping } from '../../../learner'
import { REMEMBERED } from '../../../tabular-learner'
import type { World } from '../../../world'
import { ONE_STEP_INTS, ONE_STEP_REALS } from '../../value/wasm/fast-one-step'
import { bytesOfDraws, movedWorld, rowDrawsOf, type RowDraws } from '../../value/wasm/row-draws'
import { TraceControl } from '../trace-control'
import { TRACE_STEPS_CODE } from './trace-steps-code'

/** Registers of the kernel: the order is that of trace-steps.as. */
const INTS = [
  ...ONE_STEP_INTS,
  'traces',
  'traceCells',
  'traceCount',
  'stateOf',
  'offPolicy',
  'replacing',
  'counts',
  'unsound',
  'otherTraces',
  'otherCells',
  'goneCells',
] as const
const REALS = [...ONE_STEP_REALS, 'lambda'] as const

const traceModule = moduleOf(TRACE_STEPS_CODE)

/** Control with traces, its kernel in WebAssembly where no workings are kept, and it is to be had and pays; else plainly. */
export function createTraceControl(
  world: World,
  settings: LearnSettings,
  offPolicy: boolean,
  keeps: Keeping = 'workings',
): TraceControl {
  const worthWhile =
    keeps !== 'workings' &&
    EXPLORATIONS[settings.exploration.way].kernels === 'all' &&
    paysForKernel(settings)
  return (
    (worthWhile ? fastTraceControl(world, settings, offPolicy, keeps) : null) ??
    new TraceControl(world, settings, offPolicy)
  )
}

/** @returns null where the kernel does not know the model, or WebAssembly or enough memory is not to be had */
export function fastTraceControl(
  world: World,
  settings: LearnSettings,
  offPolicy: boolean,
  keeps: Keeping,
): TraceControl | null {
  const draws = world.model.outcomeDiscount === null ? rowDrawsOf(world) : null
  const code = draws && traceModule()
  const room = draws && code && sharedRoom(world, settings, draws)
  return draws && code && room
    ? new FastTraceControl(world, settings, offPolicy, code, room, draws, keeps)
    : null
}

function sharedRoom(world: World, settings: LearnSettings, draws: RowDraws): Room | null {
  const { observations, rows } = world.model
  return Room.of(
    bytesOfDraws(world, draws) +
      4 * (observations + 1 + rows + 1 + 3 * world.startState.length) +
      8 * (6 * world.tableRows + 2 * observations) +
      12 * settings.episodes +
      12 * REMEMBERED,
    53,
  )
}

/**
 * Control with traces whose steps are taken by trace-steps.as when many are asked for. All arrays live in its memory, so that
 * single steps and snapshots are those of the plain learner; a test holds both to the same bits.
 */
class FastTraceControl extends TraceControl {
  private readonly run: (registers: number) => number
  private readonly registers: Registers<(typeof INTS)[number], (typeof REALS)[number]>

  constructor(
    world: World,
    settings: LearnSettings,
    offPolicy: boolean,
    code: WebAssembly.Module,
    room: Room,
    draws: RowDraws,
    keeps: Keeping,
  ) {
    super(world, settings, offPolicy, room, false)
    const kernels = exportsOf<Record<'Few' | 'Many', (registers: number) => number>>(code, room, 'The steps')
    this.run = kernels[draws.layout === 'Many' ? 'Many' : 'Few']
    this.registers = room.registers(INTS, REALS)
    const { greedy, traces } = this
    const { learningRate } = settings
    const byVisits = learningRate.kind === 'visits'
    this.registers.set({
      ...this.runRegisters(),
      ...movedWorld(world, draws, room, { base: greedy.records.byteOffset, size: 16 }),
      values: greedy.values,
      greedy: greedy.records,
      ties: this.ties.words,
      firstOfTies: settings.ties === 'first' ? 1 : 0,
      traces: traces.values,
      traceCells: traces.cells,
      traceCount: traces.counted,
      otherTraces: room.floats(world.tableRows),
      otherCells: room.ints(world.tableRows),
      goneCells: room.ints(world.tableRows),
      stateOf: room.copied(this.observationOf),
      offPolicy: offPolicy ? 1 : 0,
      replacing: settings.traces === 'replacing' ? 1 : 0,
      counts: byVisits || keeps === 'visits' ? 1 : 0,
      lambda: settings.lambda,
    })
  }

  protected override takeMany(limit: number, until: number): number {
    const { registers } = this
    const { whole, reals, int, real } = registers
    reals[real.level] = this.level
    const taken = takeSteps(this, this.run, registers, limit, until)
    this.changes.count = 0
    if (whole[int.ranAway] === 1) {
      this.noteDiverged(reals[real.runaway], whole[int.unsound])
    }
    return taken
  }
}
