import type { Working } from '../../../../explain/working'
import { paysForKernel } from '../../../fast-steps'
import { takeSteps } from '../../../kernel-steps'
import type { Keeping } from '../../../learner'
import type { LearnSettings } from '../../../../settings/settings'
import { REMEMBERED } from '../../../tabular-learner'
import type { World } from '../../../world'
import { exportsOf, moduleOf, Room, type Registers } from '../../../../wasm/room'
import { POLICY_SLOT } from '../preference-learner'
import { bytesOfDraws, drawRecords, movedStarts, rowDrawsOf, type RowDraws } from '../../value/wasm/row-draws'
import { Reinforce } from '../reinforce'
import { EPISODES_CODE } from './episodes-code'

/** Registers of the kernel: the order is that of episodes.as. The first ones are addresses. */
const INTS = [
  'stateRecords',
  'outcomeRecords',
  'tableStart',
  'outcomeStart',
  'startState',
  'startThreshold',
  'startGuide',
  'preferences',
  'probability',
  'tops',
  'sums',
  'visits',
  'slots',
  'returns',
  'lengths',
  'environment',
  'exploration',
  'starts',
  'cap',
  'limit',
  'until',
  'byVisits',
  'equalWeights',
  'baselineKind',
  'slotSize',
  'seenObservation',
  'seenRow',
  'seenReward',
  'worth',
  'beforePreference',
  'beforeProbability',
  'updates',
  'changedCells',
  'changedBefore',
  'state',
  'age',
  'episodes',
  'lastState',
  'lastRow',
  'lastNext',
  'lastEnded',
  'divergedAt',
  'changed',
  'rows',
  'counts',
  // What a policy that is followed has no use for.
  'chosen',
  'exploring',
  'lastExplored',
] as const
const REALS = [
  'discount',
  'temperature',
  'baselineConstant',
  'from',
  'slowness',
  'most',
  'rate',
  'returned',
  'power',
  'lastReward',
  'seen',
  'mean',
  'diverged',
] as const
const BASELINES: Record<LearnSettings['baseline']['kind'], number> = {
  none: 0,
  constant: 1,
  mean: 2,
  learned: NaN,
}

const episodesModule = moduleOf(EPISODES_CODE)

/** REINFORCE with its kernel in WebAssembly where that is to be had and pays, else plainly. */
export function createReinforce(
  world: World,
  settings: LearnSettings,
  keeps: Keeping = 'workings',
): Reinforce {
  const worthWhile = paysForKernel(settings)
  return (worthWhile ? fastReinforce(world, settings, keeps) : null) ?? new Reinforce(world, settings)
}

/** @returns null where the kernel does not know the settings, or WebAssembly or enough memory is not to be had */
export function fastReinforce(
  world: World,
  settings: LearnSettings,
  keeps: Keeping = 'workings',
): Reinforce | null {
  const { stepRule, normLimit, entropy, baseline, shape } = settings
  const isKnown =
    world.model.outcomeDiscount === null &&
    stepRule.kind === 'plain' &&
    normLimit === 0 &&
    entropy === 0 &&
    baseline.kind !== 'learned' &&
    (shape.kind === 'softmax' || world.model.actionLevels === null)
  const code = isKnown ? episodesModule() : null
  const found = keeps === 'workings' ? null : rowDrawsOf(world)
  const draws = found?.layout === 'Four' ? found : null
  const room = code && sharedRoom(world, settings, draws)
  return code && room ? new FastReinforce(world, settings, code, room, draws, keeps) : null
}

function sharedRoom(world: World, settings: LearnSettings, draws: RowDraws | null): Room | null {
  const { model, tableRows } = world
  const { observations, states, rows, outcomes } = model
  return Room.of(
    // The world
    4 * (4 * states + observations + 1 + rows + 1 + 3 * world.startState.length) +
      16 * outcomes +
      (draws ? bytesOfDraws(world, draws) : 0) +
      // The learner
      8 * (6 * tableRows + observations * (POLICY_SLOT.baseline + 3)) +
      12 * settings.episodes +
      32 * settings.cap +
      12 * REMEMBERED,
    60,
  )
}

/** [states x 4] what is asked of a state when a step is taken, in one place: see episodes.as. */
function stateRecords({ model, tableStart, rowStart }: World, room: Room): Int32Array {
  const records = room.ints(4 * model.states)
  model.observation.forEach((o, s) =>
    records.set([o, tableStart[o], tableStart[o + 1] - 1, rowStart[s]], 4 * s),
  )
  return records
}

/** [outcomes x 16 bytes] likewise of an outcome. */
function outcomeRecords({ model, threshold, ending }: World, room: Room): Float64Array {
  const records = room.floats(2 * model.outcomes)
  const ints = new Int32Array(records.buffer, records.byteOffset, 2 * records.length)
  for (let i = 0; i < model.outcomes; i++) {
    const next = model.outcomeState[i]
    ints[4 * i] = threshold[i]
    ints[4 * i + 1] = ending[next] ? ~next : next
    records[2 * i + 1] = model.outcomeReward[i]
  }
  return records
}

/**
 * REINFORCE whose steps are taken by episodes.as when many are asked for. All arrays live in its memory, so that single
 * steps, snapshots and workings are those of the plain learner; a test holds both to the same bits.
 */
class FastReinforce extends Reinforce {
  private readonly run: (registers: number) => number
  private readonly registers: Registers<(typeof INTS)[number], (typeof REALS)[number]>

  constructor(
    world: World,
    settings: LearnSettings,
    code: WebAssembly.Module,
    room: Room,
    draws: RowDraws | null,
    private readonly keeps: Keeping,
  ) {
    super(world, settings, room)
    const kernels = exportsOf<Record<'run' | 'lean' | 'leanFour', (registers: number) => number>>(
      code,
      room,
      'The episodes',
    )
    this.run = kernels[keeps === 'workings' ? 'run' : draws ? 'leanFour' : 'lean']
    this.registers = room.registers(INTS, REALS)
    const { softmax } = this
    const { baseline } = settings
    // The kernel knows one discount for all steps.
    this.followed.fill(settings.discount)
    this.registers.set({
      ...this.runRegisters(),
      ...(draws ? drawRecords(world, draws, room, { base: 0, size: 1 }) : {}),
      counts: keeps === 'results' ? 0 : 1,
      stateRecords: stateRecords(world, room),
      outcomeRecords: outcomeRecords(world, room),
      outcomeStart: room.copied(world.outcomeStart),
      ...movedStarts(world, room),
      preferences: softmax.preferences,
      probability: softmax.probability,
      tops: softmax.top,
      sums: softmax.sum,
      slots: this.slots,
      equalWeights: settings.weighting === 'equal' ? 1 : 0,
      baselineKind: BASELINES[baseline.kind],
      slotSize: this.slotSize,
      seenObservation: this.observation,
      seenRow: this.row,
      seenReward: this.reward,
      worth: this.returns,
      beforePreference: this.beforePreference,
      beforeProbability: this.beforeProbability,
      updates: this.updates,
      changedCells: this.changes.cells,
      changedBefore: this.changes.before,
      temperature: settings.temperature,
      baselineConstant: baseline.kind === 'constant' ? baseline.value : 0,
    })
  }

  override working(observation: number): Working | undefined {
    return this.keeps === 'workings' ? super.working(observation) : undefined
  }

  protected override takeMany(limit: number, until: number): number {
    const { changes, registers } = this
    const { whole, reals, int, real } = registers
    reals[real.seen] = this.seen
    reals[real.mean] = this.mean
    const taken = takeSteps(this, this.run, registers, limit, until)
    this.seen = reals[real.seen]
    this.mean = reals[real.mean]
    changes.count = whole[int.changed]
    const diverged = whole[int.divergedAt]
    if (diverged >= 0) {
      this.noteDiverged(reals[real.diverged], diverged)
    }
    return taken
  }
}
