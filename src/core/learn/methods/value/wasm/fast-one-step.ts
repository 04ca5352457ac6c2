import { EXPLORATIONS, type ExplorationWay } from '../../../explore/explorations'
import { OneStep } from '../one-step'
import { bytesOfDraws, drawRecords, movedOutcomes, movedStarts, rowDrawsOf, type RowDraws } from './row-draws'
import type { Keeping } from '../../../learner'
import type { LearnSettings } from '../../../../settings/settings'
import { ONE_STEP_SLOT_SIZE, SLOT } from '../../../slots'
import { paysForKernel } from '../../../fast-steps'
import { takeSteps } from '../../../kernel-steps'
import type { Target } from '../step-working'
import { mostRows, REMEMBERED } from '../../../tabular-learner'
import type { World } from '../../../world'
import { exportsOf, moduleOf, Room, type Registers } from '../../../../wasm/room'
import { LEAN_STEPS_CODE } from './lean-steps-code'
import { SOFT_STEPS_CODE } from './soft-steps-code'
import { STEPS_CODE } from './steps-code'

/** Registers of the kernels: the order is that of steps.as and lean-steps.as. The first ones are addresses. */
export const ONE_STEP_INTS = [
  'observation',
  'ending',
  'tableStart',
  'rowStart',
  'outcomeStart',
  'outcomeState',
  'outcomeReward',
  'threshold',
  'startState',
  'startThreshold',
  'startGuide',
  'values',
  'greedy',
  'visits',
  'slots',
  'returns',
  'lengths',
  'environment',
  'exploration',
  'ties',
  'starts',
  'cap',
  'limit',
  'until',
  'target',
  'byVisits',
  'firstOfTies',
  'state',
  'chosen',
  'age',
  'exploring',
  'episodes',
  'lastState',
  'lastRow',
  'lastNext',
  'lastEnded',
  'lastExplored',
  'ranAway',
  'rows',
  'cells',
  'links',
] as const
/** Of soft-steps.as besides. */
const SOFT_INTS = [...ONE_STEP_INTS, 'scratch', 'counts', 'way'] as const
export const ONE_STEP_REALS = [
  'discount',
  'level',
  'from',
  'slowness',
  'most',
  'rate',
  'returned',
  'power',
  'steps',
  'lastReward',
  'runaway',
] as const
/** The number by which soft-steps.as knows a way to explore; null for those that other kernels know, or none. */
function softWayOf(way: ExplorationWay): number | null {
  const { kernels } = EXPLORATIONS[way]
  return typeof kernels === 'object' ? kernels.leanOneStep : null
}

const TARGETS: Record<Target, number> = { best: 0, taken: 1, expected: 2 }

const stepsModule = moduleOf(STEPS_CODE)
const leanModule = moduleOf(LEAN_STEPS_CODE)
const softModule = moduleOf(SOFT_STEPS_CODE)

/** One-step control with its kernel in WebAssembly where that is to be had and pays, else plainly. */
export function createOneStep(
  world: World,
  settings: LearnSettings,
  target: Target,
  keeps: Keeping = 'workings',
): OneStep {
  const worthWhile =
    EXPLORATIONS[settings.exploration.way].kernels !== 'none' &&
    paysForKernel(settings) &&
    // The kernels know one discount for all steps.
    world.model.outcomeDiscount === null
  return (
    (worthWhile ? fastOneStep(world, settings, target, keeps) : null) ?? new OneStep(world, settings, target)
  )
}

/** @returns null where no kernel knows the settings, or WebAssembly or enough memory is not to be had */
export function fastOneStep(
  world: World,
  settings: LearnSettings,
  target: Target,
  keeps: Keeping = 'workings',
): OneStep | null {
  const draws = keeps === 'workings' ? null : rowDrawsOf(world)
  const soft = softWayOf(settings.exploration.way) !== null
  const code = draws ? (soft ? softModule() : leanModule()) : soft ? null : stepsModule()
  const room = code && sharedRoom(world, settings, draws)
  if (code && room) return new FastOneStep(world, settings, target, code, room, draws, keeps)
  // What is laid out for lean kernels takes the most memory.
  return draws && !soft ? fastOneStep(world, settings, target) : null
}

function sharedRoom(world: World, settings: LearnSettings, draws: RowDraws | null): Room | null {
  const { model, tableRows } = world
  const { observations, states, rows, outcomes } = model
  const arrays =
    // The world
    4 * (observations + 1 + 3 * world.startState.length) +
    (draws
      ? bytesOfDraws(world, draws) + 4 * (rows + 1)
      : 4 * (states + states + 1 + rows + 1 + 2 * outcomes) + 8 * outcomes + states) +
    // The learner
    8 * (2 * tableRows + observations * ((draws ? 0 : ONE_STEP_SLOT_SIZE) + 1)) +
    8 * observations +
    12 * settings.episodes +
    8 * mostRows(world.tableStart) +
    12 * REMEMBERED
  return Room.of(arrays, 40)
}

/** The function of a lean kernel. */
function nameOf({ layout }: RowDraws, target: Target, way: ExplorationWay, counts: boolean): string {
  const soft = softWayOf(way)
  if (soft !== null) return `${layout === 'Many' ? 'Many' : 'Few'}${soft > 0 ? 'Bounds' : ''}`
  return `${target}${layout}${counts ? 'Counted' : ''}`
}

/**
 * One-step control whose steps are taken by a kernel when many are asked for: by steps.as where workings are kept, by
 * lean-steps.as where they are not. All arrays live in the memory of the kernel, so that single steps and snapshots are
 * those of the plain learner; a test holds both to the same bits.
 */
class FastOneStep extends OneStep {
  private readonly run: (registers: number) => number
  private readonly registers: Registers<(typeof SOFT_INTS)[number], (typeof ONE_STEP_REALS)[number]>

  constructor(
    world: World,
    settings: LearnSettings,
    target: Target,
    code: WebAssembly.Module,
    room: Room,
    draws: RowDraws | null,
    keeps: Keeping,
  ) {
    super(world, settings, target, room, draws === null)
    const kernels = exportsOf<Record<string, (registers: number) => number>>(code, room, 'The steps')
    const { way } = settings.exploration
    const byVisits = settings.learningRate.kind === 'visits'
    const counts = byVisits || keeps === 'visits' || EXPLORATIONS[way].goesByVisits
    this.run = kernels[draws ? nameOf(draws, target, way, counts) : 'run']
    this.registers = room.registers(SOFT_INTS, ONE_STEP_REALS)
    const { greedy } = this
    this.registers.set({
      ...this.runRegisters(),
      ...(draws ? drawRecords(world, draws, room, { base: greedy.records.byteOffset, size: 16 }) : {}),
      ...(draws
        ? draws.layout === 'Many'
          ? { outcomeStart: room.copied(world.outcomeStart) }
          : {}
        : movedOutcomes(world, room)),
      ...(draws
        ? {}
        : { observation: room.copied(world.observation), rowStart: room.copied(world.rowStart) }),
      ...movedStarts(world, room),
      values: greedy.values,
      greedy: greedy.records,
      slots: this.slots,
      ties: this.ties.words,
      target: TARGETS[target],
      scratch: room.floats(softWayOf(way) === null ? 0 : mostRows(world.tableStart)),
      way: softWayOf(way) ?? 0,
      counts: counts ? 1 : 0,
      firstOfTies: settings.ties === 'first' ? 1 : 0,
    })
  }

  protected override takeMany(limit: number, until: number): number {
    const { last, slots, registers } = this
    const { whole, reals, int, real } = registers
    reals[real.level] = this.level
    reals[real.steps] = this.steps
    const taken = takeSteps(this, this.run, registers, limit, until)
    this.changes.count = 0
    const observation = this.world.observation[last.state]
    if (whole[int.ranAway] === 1) {
      this.noteDiverged(reals[real.runaway], observation)
      this.greedy.refresh(observation)
    } else if (this.keepsWorkings)
      this.noteChange(last.row, slots[observation * ONE_STEP_SLOT_SIZE + SLOT.old])
    return taken
  }
}
