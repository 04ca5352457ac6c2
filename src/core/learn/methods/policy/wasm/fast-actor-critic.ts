import type { LearnSettings } from '../../../../settings/settings'
import { exportsOf, moduleOf, Room, type Registers } from '../../../../wasm/room'
import { paysForKernel } from '../../../fast-steps'
import { FOLLOWING_INTS, FOLLOWING_REALS, takeSteps } from '../../../kernel-steps'
import type { Keeping } from '../../../learner'
import { REMEMBERED } from '../../../tabular-learner'
import type { World } from '../../../world'
import { bytesOfDraws, movedWorld, rowDrawsOf, type RowDraws } from '../../value/wasm/row-draws'
import { ActorCritic } from '../actor-critic'
import type { SoftmaxTable } from '../softmax-table'
import { TraceActorCritic } from '../trace-actor-critic'
import { POLICY_SLOT_SIZE } from '../preference-learner'
import { CRITIC_STEPS_CODE } from './critic-steps-code'

/** Registers of the kernel: the order is that of critic-steps.as. */
const INTS = [
  ...FOLLOWING_INTS,
  'preferences',
  'tops',
  'sums',
  'criticUpdates',
  'criticByVisits',
  'equalWeights',
  'traces',
  'traceCells',
  'traceCount',
  'rowTraces',
  'traced',
  'tracedCount',
  'replacing',
  'unsound',
] as const
const REALS = [
  ...FOLLOWING_REALS,
  'temperature',
  'criticRate',
  'criticFrom',
  'criticSlowness',
  'lambda',
] as const

const criticModule = moduleOf(CRITIC_STEPS_CODE)

/** The actor-critic with its kernel in WebAssembly where no workings are kept, and it is to be had and pays; else plainly. */
export function createActorCritic(
  world: World,
  settings: LearnSettings,
  keeps: Keeping = 'workings',
): ActorCritic {
  const fast = isWorthWhile(settings, keeps) ? fastActorCritic(world, settings, keeps) : null
  return fast ?? new ActorCritic(world, settings)
}

/** The actor-critic with traces, likewise. */
export function createTraceActorCritic(
  world: World,
  settings: LearnSettings,
  keeps: Keeping = 'workings',
): TraceActorCritic {
  const fast = isWorthWhile(settings, keeps) ? fastTraceActorCritic(world, settings, keeps) : null
  return fast ?? new TraceActorCritic(world, settings)
}

function isWorthWhile(settings: LearnSettings, keeps: Keeping): boolean {
  return keeps !== 'workings' && paysForKernel(settings)
}

/** @returns null where the kernel does not know the model or the settings, or WebAssembly or enough memory is not to be had */
export function fastActorCritic(world: World, settings: LearnSettings, keeps: Keeping): ActorCritic | null {
  // Levels of one number have a policy of their own.
  const isKnown = settings.shape.kind === 'softmax' || world.model.actionLevels === null
  const parts = isKnown ? kernelParts(world, settings) : null
  return parts && new FastActorCritic(world, settings, parts, keeps)
}

/** @returns likewise */
export function fastTraceActorCritic(
  world: World,
  settings: LearnSettings,
  keeps: Keeping,
): TraceActorCritic | null {
  const parts = kernelParts(world, settings)
  return parts && new FastTraceActorCritic(world, settings, parts, keeps)
}

interface KernelParts {
  readonly code: WebAssembly.Module
  readonly room: Room
  readonly draws: RowDraws
}

function kernelParts(world: World, settings: LearnSettings): KernelParts | null {
  const { stepRule, normLimit, entropy, criticRate } = settings
  const isKnown =
    world.model.outcomeDiscount === null &&
    stepRule.kind === 'plain' &&
    normLimit === 0 &&
    entropy === 0 &&
    // The kernel is asked anew when the rate of the preferences changes, not when that of the values does.
    (criticRate.kind === 'constant' || criticRate.kind === 'visits')
  const draws = isKnown ? rowDrawsOf(world) : null
  const code = draws && criticModule()
  const room = draws && code && sharedRoom(world, settings, draws)
  return draws && code && room ? { code, room, draws } : null
}

function sharedRoom(world: World, settings: LearnSettings, draws: RowDraws): Room | null {
  const { observations, rows } = world.model
  return Room.of(
    bytesOfDraws(world, draws) +
      4 * (3 * observations + rows + 4 + 3 * world.startState.length) +
      8 * (7 * world.tableRows + observations * (POLICY_SLOT_SIZE + 5)) +
      12 * settings.episodes +
      12 * REMEMBERED,
    60,
  )
}

/** A kernel with its registers, as far as both learners have the same. */
class CriticKernel {
  readonly registers: Registers<(typeof INTS)[number], (typeof REALS)[number]>
  private readonly run: (registers: number) => number

  /** @param name  of the function */
  constructor({ code, room }: KernelParts, name: string) {
    this.run = exportsOf<Record<string, (registers: number) => number>>(code, room, 'The steps')[name]
    this.registers = room.registers(INTS, REALS)
  }

  /** Lets it take steps: as many as asked for, or until so many episodes are finished. */
  take(learner: Parameters<typeof takeSteps>[0], limit: number, until: number): number {
    return takeSteps(learner, this.run, this.registers, limit, until)
  }

  /** The number that diverged in the last of those steps, and of which observation; null where none did. */
  get diverged(): { readonly value: number; readonly observation: number } | null {
    const { whole, reals, int, real } = this.registers
    return whole[int.ranAway] === 1 ? { value: reals[real.runaway], observation: whole[int.unsound] } : null
  }
}

/** What a kernel is told of an actor and its critic. */
function criticRegisters(
  settings: LearnSettings,
  keeps: Keeping,
  softmax: SoftmaxTable,
  critic: Float64Array,
) {
  const { criticRate } = settings
  return {
    chances: softmax.probability,
    preferences: softmax.preferences,
    tops: softmax.top,
    sums: softmax.sum,
    values: critic,
    criticByVisits: criticRate.kind === 'visits' ? 1 : 0,
    equalWeights: settings.weighting === 'equal' ? 1 : 0,
    temperature: settings.temperature,
    counts: keeps === 'visits' ? 1 : 0,
    ...(criticRate.kind === 'visits'
      ? { criticFrom: criticRate.from, criticSlowness: criticRate.slowness }
      : { criticRate: criticRate.kind === 'constant' ? criticRate.from : 0 }),
  }
}

/**
 * The actor-critic whose steps are taken by critic-steps.as when many are asked for. All arrays live in its memory, so that
 * single steps and snapshots are those of the plain learner; a test holds both to the same bits.
 */
class FastActorCritic extends ActorCritic {
  private readonly kernel: CriticKernel

  constructor(world: World, settings: LearnSettings, parts: KernelParts, keeps: Keeping) {
    const { room, draws } = parts
    super(world, settings, room)
    this.kernel = new CriticKernel(parts, draws.layout)
    const critic = this.critic!
    this.kernel.registers.set({
      ...this.runRegisters(),
      ...movedWorld(world, draws, room, { base: critic.byteOffset, size: 8 }),
      ...criticRegisters(settings, keeps, this.softmax, critic),
      criticUpdates: this.criticUpdates!,
      updates: this.updates,
    })
  }

  /** Nothing of it is kept. */
  override working(): undefined {
    return undefined
  }

  protected override takeMany(limit: number, until: number): number {
    const taken = this.kernel.take(this, limit, until)
    this.changes.count = 0
    const { diverged } = this.kernel
    if (diverged) this.noteDiverged(diverged.value, diverged.observation)
    return taken
  }
}

/** The actor-critic with traces, likewise. */
class FastTraceActorCritic extends TraceActorCritic {
  private readonly kernel: CriticKernel

  constructor(world: World, settings: LearnSettings, parts: KernelParts, keeps: Keeping) {
    const { room, draws } = parts
    super(world, settings, room)
    this.kernel = new CriticKernel(parts, draws.layout === 'Many' ? 'ManyTraces' : 'FewTraces')
    const critic = this.critic!
    const { traces, rowTraces, traced, tracedCount } = this
    this.kernel.registers.set({
      ...this.runRegisters(),
      ...movedWorld(world, draws, room, { base: critic.byteOffset, size: 8 }),
      ...criticRegisters(settings, keeps, this.softmax, critic),
      criticUpdates: this.criticUpdates!,
      updates: this.updates,
      traces: traces.values,
      traceCells: traces.cells,
      traceCount: traces.counted,
      ...{ rowTraces, traced, tracedCount },
      replacing: settings.traces === 'replacing' ? 1 : 0,
      lambda: settings.lambda,
    })
  }

  /** Nothing of it is kept. */
  override working(): undefined {
    return undefined
  }

  protected override takeMany(limit: number, until: number): number {
    const taken = this.kernel.take(this, limit, until)
    this.changes.count = 0
    const { diverged } = this.kernel
    if (diverged) this.noteDiverged(diverged.value, diverged.observation)
    return taken
  }
}
