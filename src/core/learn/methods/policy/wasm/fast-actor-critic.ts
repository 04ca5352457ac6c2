import type { LearnSettings } from '../../../../settings/settings'
import { exportsOf, moduleOf, Room, type Registers } from '../../../../wasm/room'
import { advanceFast, type FastSteps } from '../../../fast-steps'
import { takeSteps } from '../../../kernel-steps'
import type { Keeping } from '../../../learner'
import { REMEMBERED } from '../../../tabular-learner'
import type { World } from '../../../world'
import { bytesOfDraws, movedWorld, rowDrawsOf, type RowDraws } from '../../value/wasm/row-draws'
import { ActorCritic } from '../actor-critic'
import { POLICY_SLOT_SIZE } from '../preference-learner'
import { CRITIC_STEPS_CODE } from './critic-steps-code'

/** Registers of the kernel: the order is that of critic-steps.as. The first ones are addresses. */
const INTS = [
  'rows',
  'cells',
  'links',
  'outcomeStart',
  'tableStart',
  'startState',
  'startThreshold',
  'startGuide',
  'probability',
  'values',
  'updates',
  'visits',
  'returns',
  'lengths',
  'environment',
  'exploration',
  'starts',
  'byVisits',
  'counts',
  'cap',
  'limit',
  'until',
  'state',
  'age',
  'episodes',
  'lastState',
  'lastRow',
  'lastNext',
  'lastEnded',
  'ranAway',
  // What a policy that is followed has no use for.
  'chosen',
  'exploring',
  'lastExplored',
  'preferences',
  'tops',
  'sums',
  'criticUpdates',
  'criticByVisits',
  'equalWeights',
] as const
const REALS = [
  'discount',
  'from',
  'slowness',
  'most',
  'rate',
  'returned',
  'power',
  'lastReward',
  'runaway',
  'temperature',
  'criticRate',
  'criticFrom',
  'criticSlowness',
] as const

/** Runs that cannot have more steps than this are not worth a memory of their own. */
const SHORT = 100_000

const criticModule = moduleOf(CRITIC_STEPS_CODE)

/** The actor-critic with its kernel in WebAssembly where no workings are kept, and it is to be had and pays; else plainly. */
export function createActorCritic(
  world: World,
  settings: LearnSettings,
  keeps: Keeping = 'workings',
): ActorCritic {
  const worthWhile = keeps !== 'workings' && settings.episodes * settings.cap > SHORT
  return (worthWhile ? fastActorCritic(world, settings, keeps) : null) ?? new ActorCritic(world, settings)
}

/** @returns null where the kernel does not know the model or the settings, or WebAssembly or enough memory is not to be had */
export function fastActorCritic(world: World, settings: LearnSettings, keeps: Keeping): ActorCritic | null {
  const { stepRule, normLimit, entropy, shape, criticRate } = settings
  const isKnown =
    world.model.outcomeDiscount === null &&
    stepRule.kind === 'plain' &&
    normLimit === 0 &&
    entropy === 0 &&
    (shape.kind === 'softmax' || world.model.actionLevels === null) &&
    // The kernel is asked anew when the rate of the preferences changes, not when that of the values does.
    (criticRate.kind === 'constant' || criticRate.kind === 'visits')
  const draws = isKnown ? rowDrawsOf(world) : null
  const code = draws && criticModule()
  const room = draws && code && sharedRoom(world, settings, draws)
  return draws && code && room ? new FastActorCritic(world, settings, code, room, draws, keeps) : null
}

function sharedRoom(world: World, settings: LearnSettings, draws: RowDraws): Room | null {
  const { observations, rows } = world.model
  return Room.of(
    bytesOfDraws(world, draws) +
      4 * (observations + 1 + rows + 1 + 3 * world.startState.length) +
      8 * (6 * world.tableRows + observations * (POLICY_SLOT_SIZE + 4)) +
      12 * settings.episodes +
      12 * REMEMBERED,
    50,
  )
}

/**
 * The actor-critic whose steps are taken by critic-steps.as when many are asked for. All arrays live in its memory, so that
 * single steps and snapshots are those of the plain learner; a test holds both to the same bits.
 */
class FastActorCritic extends ActorCritic {
  private readonly fastSteps: FastSteps = {
    plain: (limit, episodes) => super.advance(limit, episodes),
    tick: () => this.tick(),
    many: (limit, until) => this.many(limit, until),
    check: () => this.checkStop(),
  }
  private readonly run: (registers: number) => number
  private readonly registers: Registers<(typeof INTS)[number], (typeof REALS)[number]>

  constructor(
    world: World,
    settings: LearnSettings,
    code: WebAssembly.Module,
    room: Room,
    draws: RowDraws,
    keeps: Keeping,
  ) {
    super(world, settings, room)
    this.run = exportsOf<Record<RowDraws['layout'], (registers: number) => number>>(code, room, 'The steps')[
      draws.layout
    ]
    this.registers = room.registers(INTS, REALS)
    const { criticRate } = settings
    const { softmax } = this
    const critic = this.critic!
    this.registers.set({
      ...this.runRegisters(),
      ...movedWorld(world, draws, room, { base: critic.byteOffset, size: 8 }),
      probability: softmax.probability,
      preferences: softmax.preferences,
      tops: softmax.top,
      sums: softmax.sum,
      values: critic,
      criticUpdates: this.criticUpdates!,
      criticByVisits: criticRate.kind === 'visits' ? 1 : 0,
      equalWeights: settings.weighting === 'equal' ? 1 : 0,
      temperature: settings.temperature,
      updates: this.updates,
      counts: keeps === 'visits' ? 1 : 0,
      ...(criticRate.kind === 'visits'
        ? { criticFrom: criticRate.from, criticSlowness: criticRate.slowness }
        : { criticRate: criticRate.kind === 'constant' ? criticRate.from : 0 }),
    })
  }

  /** Nothing of it is kept. */
  override working(): undefined {
    return undefined
  }

  override advance(limit: number, episodes = Infinity): number {
    // Updates that are to be noted down are made plainly.
    return this.notes ? super.advance(limit, episodes) : advanceFast(this, this.fastSteps, limit, episodes)
  }

  /** Steps by the kernel: as many as asked for, or until so many episodes are finished. */
  private many(limit: number, until: number): number {
    const { last, registers } = this
    const { whole, reals, int, real } = registers
    const taken = takeSteps(this, this.run, registers, limit, until)
    this.changes.count = 0
    if (whole[int.ranAway] === 1) {
      this.noteDiverged(reals[real.runaway], this.world.observation[last.state])
    }
    return taken
  }
}
