import { EXPLORATIONS } from '../../../explore/explorations'
import { paysForKernel } from '../../../fast-steps'
import { takeSteps } from '../../../kernel-steps'
import type { Keeping } from '../../../learner'
import type { LearnSettings } from '../../../../settings/settings'
import { REMEMBERED } from '../../../tabular-learner'
import { exportsOf, moduleOf, Room, type Registers } from '../../../../wasm/room'
import type { World } from '../../../world'
import { ONE_STEP_INTS, ONE_STEP_REALS } from '../../value/wasm/fast-one-step'
import { bytesOfDraws, movedWorld, rowDrawsOf, type RowDraws } from '../../value/wasm/row-draws'
import { DynaQ } from '../dyna-q'
import { DYNA_STEPS_CODE } from './dyna-steps-code'

/** Registers of the kernel: the order is that of dyna-steps.as. */
const INTS = [
  ...ONE_STEP_INTS,
  'counts',
  'seen',
  'total',
  'firstOfRow',
  'firstInto',
  'rowOf',
  'nextGroup',
  'times',
  'rewards',
  'carried',
  'nextOfRow',
  'nextInto',
  'picks',
  'updates',
  'stateOf',
  'planning',
  'seenCount',
  'entries',
  'unsound',
] as const

const dynaModule = moduleOf(DYNA_STEPS_CODE)

/** Dyna-Q with its kernel in WebAssembly where no workings are kept, and it is to be had and pays; else plainly. */
export function createDynaQ(world: World, settings: LearnSettings, keeps: Keeping = 'workings'): DynaQ {
  const worthWhile = keeps !== 'workings' && paysForKernel(settings, 1 + settings.planning)
  return (worthWhile ? fastDynaQ(world, settings, keeps) : null) ?? new DynaQ(world, settings)
}

/** @returns null where the kernel does not know the model or the settings, or WebAssembly or enough memory is not to be had */
export function fastDynaQ(world: World, settings: LearnSettings, keeps: Keeping): DynaQ | null {
  const isKnown =
    EXPLORATIONS[settings.exploration.way].kernels === 'all' && world.model.outcomeDiscount === null
  const draws = isKnown ? rowDrawsOf(world) : null
  const code = draws && dynaModule()
  const room = draws && code && sharedRoom(world, settings, draws)
  return draws && code && room ? new FastDynaQ(world, settings, code, room, draws, keeps) : null
}

function sharedRoom(world: World, settings: LearnSettings, draws: RowDraws): Room | null {
  const { observations, rows, outcomes } = world.model
  return Room.of(
    bytesOfDraws(world, draws) +
      4 * (observations + 1 + rows + 1 + 3 * world.startState.length) +
      8 * (4 * world.tableRows + 2 * observations) +
      4 * (3 * world.tableRows + observations) +
      40 * outcomes +
      12 * settings.episodes +
      12 * REMEMBERED,
    60,
  )
}

/**
 * Dyna-Q whose steps are taken by dyna-steps.as when many are asked for. All arrays live in its memory, so that single steps
 * and snapshots are those of the plain learner; a test holds both to the same bits.
 */
class FastDynaQ extends DynaQ {
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
    const kernels = exportsOf<Record<'Few' | 'Many', (registers: number) => number>>(code, room, 'The steps')
    this.run = kernels[draws.layout === 'Many' ? 'Many' : 'Few']
    this.registers = room.registers(INTS, ONE_STEP_REALS)
    const { greedy, model } = this
    const { seen, total, firstOfRow, firstInto, rowOf, nextGroup, times, carried, nextOfRow, nextInto } =
      model
    this.registers.set({
      ...this.runRegisters(),
      ...movedWorld(world, draws, room, { base: greedy.records.byteOffset, size: 16 }),
      ...{ seen, total, firstOfRow, firstInto, rowOf, nextGroup, times, carried, nextOfRow, nextInto },
      rewards: model.reward,
      values: greedy.values,
      greedy: greedy.records,
      ties: this.ties.words,
      firstOfTies: settings.ties === 'first' ? 1 : 0,
      picks: this.picks.words,
      updates: this.updates,
      stateOf: room.copied(this.observationOf),
      planning: settings.planning,
      counts: keeps === 'visits' ? 1 : 0,
    })
  }

  protected override takeMany(limit: number, until: number): number {
    const { model, registers } = this
    const { whole, reals, int, real } = registers
    reals[real.level] = this.level
    whole[int.seenCount] = model.seenCount
    whole[int.entries] = model.entries
    const taken = takeSteps(this, this.run, registers, limit, until)
    model.grown(whole[int.seenCount], whole[int.entries])
    this.changes.count = 0
    if (whole[int.ranAway] === 1) this.noteDiverged(reals[real.runaway], whole[int.unsound])
    return taken
  }
}
