import { constant, type Schedule } from '../learn/schedule'
import { cellName } from '../kinds/grid/cells'
import type { GridEnvironment } from '../kinds/grid/kind'
import { PLAIN_GRID, WALL, type Grid } from '../kinds/grid/document'
import { newHead } from '../environment/head'
import { compileEnvironment } from '../environment/compile'
import { exactEpisodes } from '../evaluate/exact-episodes'
import { randomPolicy } from '../plan/evaluate'
import { stepsToEnding } from '../plan/reach'
import { RandomStream } from '../random/generator'
import { createLearner } from '../learn/methods/learners'
import { World } from '../learn/world'
import type { RowPolicy } from '../model/model'
import { solveOptimum } from '../plan/solve'
import { settingsOf, type LearnChoice } from '../settings/choice'
import { choiceIn } from '../settings/first-choice'
import type { DiagnosisRuleId } from '../diagnose/rule-ids'

/** A hall of the gallery, of random size and with random pillars, and what belongs in it. */
interface Hall {
  readonly document: GridEnvironment
  /** Steps from the start to the far door at the least. */
  readonly steps: number
}

interface HallParts {
  /** What a step pays. */
  readonly step?: number
  /** A second door near the start, that pays this. */
  readonly near?: number
  /** Stairs down beside the way: endings that pay this. */
  readonly stairs?: number
  readonly veer?: number
  readonly grid?: (far: string, start: string) => Partial<Grid>
}

/** What the far door pays. */
const PRIZE = 10

/** A hall in which the far door can be reached; the same for the same seed. */
function hall(seed: number, parts: HallParts = {}): Hall {
  const stream = new RandomStream(seed, 'problem', 0)
  for (;;) {
    const [columns, rows] = [5 + stream.below(4), 4 + stream.below(3)]
    const start = { column: stream.below(2), row: stream.below(2) }
    const far = { column: columns - 1 - stream.below(2), row: rows - 1 - stream.below(2) }
    const cells = Array.from({ length: rows }, () => Array.from({ length: columns }, () => '.'))
    for (let i = 0; i < 3; i++) cells[stream.below(rows)][stream.below(columns)] = WALL
    const near = { column: start.column, row: start.row + 2 }
    const stairs = Array.from({ length: 2 }, () => ({
      column: 2 + stream.below(columns - 3),
      row: stream.below(rows),
    }))
    const name = (at: { column: number; row: number }) => cellName(at.column, at.row)
    const endings = [
      { at: name(far), reward: PRIZE, name: 'far door' },
      ...(parts.near === undefined ? [] : [{ at: name(near), reward: parts.near, name: 'near door' }]),
      ...(parts.stairs === undefined
        ? []
        : stairs.map((at, i) => ({ at: name(at), reward: parts.stairs!, name: `stairs ${i + 1}` }))),
    ]
    const places = [name(start), ...endings.map(({ at }) => at)]
    if (new Set(places).size < places.length) continue
    const right = { column: start.column + 1, row: start.row }
    const below = { column: start.column, row: start.row + 1 }
    for (const { column, row } of [start, right, below, far, near, ...stairs]) cells[row][column] = '.'
    const document: GridEnvironment = {
      ...newHead(`hall ${seed}`, ''),
      kind: 'grid',
      discount: 0.97,
      cap: 200,
      grid: {
        ...PLAIN_GRID,
        floor: cells.map((row) => row.join('')),
        starts: [{ at: name(start), weight: 1 }],
        endings,
        stepReward: parts.step ?? 0,
        veer: parts.veer ?? 0,
        ...parts.grid?.(name(far), name(start)),
      },
    }
    const { model } = compileEnvironment({
      ...document,
      grid: { ...document.grid, endings: endings.slice(0, 1) },
    })
    const steps = stepsToEnding(model)[model.startState[0]]
    if (steps >= 5 && chanceOfFar(document) >= 0.3) return { document, steps }
  }
}

/** The chance that an episode of a random walk comes to the far door. */
function chanceOfFar(document: GridEnvironment): number {
  const { model } = compileEnvironment(document)
  const far = Uint8Array.from(model.outcomeReward, (reward, o) =>
    model.ending[model.outcomeState[o]] && reward > PRIZE / 2 ? 1 : 0,
  )
  return exactEpisodes(model, randomPolicy(model), 1, document.cap, far).goalBy[document.cap]
}

const SETTLING: Schedule = { kind: 'linear', from: 1, to: 0.05, over: 1400, per: 'episode' }
const SLOW: Schedule = { kind: 'visits', from: 0.5, slowness: 50 }
const METHODS = ['q-learning', 'sarsa', 'expected-sarsa'] as const

/** Settings with which an agent learns the best way through any of these halls. */
function goodChoice(document: GridEnvironment, seed: number, said: Partial<LearnChoice> = {}): LearnChoice {
  return choiceIn(document, {
    method: METHODS[seed % METHODS.length],
    seed,
    episodes: 2000,
    learningRate: document.grid.veer > 0 ? SLOW : constant(0.2),
    exploration: { way: 'epsilon-greedy', level: SETTLING },
    ...said,
  })
}

/** An environment and settings. */
export interface Planted {
  readonly document: GridEnvironment
  readonly choice: LearnChoice
}

/** Nothing is wrong here. */
export function sound(seed: number): Planted {
  const { document } = hall(seed, {
    step: seed % 2 ? -0.1 : 0,
    ...(seed % 3 ? {} : { veer: 0.1 }),
    ...(seed % 5 ? {} : { stairs: -5 }),
  })
  return { document, choice: goodChoice(document, seed, { method: 'q-learning' }) }
}

const epsilon = (level: number): LearnChoice['exploration'] => ({
  way: 'epsilon-greedy',
  level: constant(level),
})

/** The same with the first seed of the run with which the fault shows: of chance some runs are good all the same. */
function showing({ document, choice }: Planted): Planted {
  const { model } = compileEnvironment(document)
  const world = new World(model)
  const worth = (policy: RowPolicy) => exactEpisodes(model, policy, choice.discount, choice.cap).value
  const best = worth(solveOptimum(model, choice.discount)!.policy)
  for (let seed = choice.seed; seed < choice.seed + 5000; seed += 100) {
    const learner = createLearner(choice.method, world, { ...settingsOf(choice, () => null), seed })
    while (learner.advance(1_000_000) > 0);
    if (worth(world.toModelRows(learner.policy())) < 0.85 * best)
      return { document, choice: { ...choice, seed } }
  }
  throw new Error('the fault never shows')
}

/** Faults by the rule that should tell them, each in as many variations as there are seeds. */
export const FAULTS: Readonly<Partial<Record<DiagnosisRuleId, (seed: number) => Planted>>> = {
  unreachable: (seed) => {
    const { document } = hall(seed)
    const { floor, endings } = document.grid
    // Pillars all around the door.
    const { column, row } = placeOf(endings[0].at)
    const walled = floor.map((line, y) =>
      [...line].map((sign, x) => (Math.abs(x - column) + Math.abs(y - row) === 1 ? WALL : sign)).join(''),
    )
    const closed = { ...document, grid: { ...document.grid, floor: walled } }
    return { document: closed, choice: goodChoice(closed, seed, { episodes: 200 }) }
  },
  diverged: (seed) => {
    const { document } = hall(seed, { step: -1 })
    return { document, choice: goodChoice(document, seed, { learningRate: constant(2.5 + (seed % 5) / 4) }) }
  },
  diverging: (seed) => {
    const { document } = hall(seed, { step: -1 })
    const choice = goodChoice(document, seed, {
      method: 'expected-sarsa',
      learningRate: constant(2 + (seed % 5) / 20),
    })
    // Stopped a little before it has diverged.
    const learner = createLearner(
      choice.method,
      new World(compileEnvironment(document).model),
      settingsOf(choice, () => null),
    )
    while (learner.advance(1_000_000) > 0);
    return { document, choice: { ...choice, episodes: Math.max(1, learner.log.count - 1) } }
  },
  cap: (seed) => {
    const { document, steps } = hall(seed)
    return { document, choice: goodChoice(document, seed, { cap: steps - 1 - (seed % 2) }) }
  },
  discount: (seed) => {
    const { document } = hall(seed, { near: 1 })
    return { document, choice: goodChoice(document, seed, { discount: 0.25 + (seed % 4) / 20 }) }
  },
  circle: (seed) => {
    const { document } = hall(seed, {
      grid: (_, start) => ({
        bonuses: [{ at: beside(start), reward: 2, once: false, name: 'applause' }],
      }),
    })
    return { document, choice: goodChoice(document, seed) }
  },
  pessimistic: (seed) => {
    const { document } = hall(seed)
    return showing({
      document,
      choice: goodChoice(document, seed, {
        start: { kind: 'constant', value: -20 - (seed % 10) },
        exploration: epsilon(0.01),
      }),
    })
  },
  optimistic: (seed) => {
    const { document } = hall(seed)
    return {
      document,
      choice: goodChoice(document, seed, {
        start: { kind: 'constant', value: 500 + 100 * (seed % 5) },
        learningRate: constant(0.02),
        exploration: epsilon(0.05),
        episodes: 150,
      }),
    }
  },
  ties: (seed) => {
    const { document } = hall(seed)
    return { document, choice: goodChoice(document, seed, { ties: 'first', exploration: epsilon(0.02) }) }
  },
  'rate-low': (seed) => {
    const { document } = hall(seed, { near: 1 })
    return {
      document,
      choice: goodChoice(document, seed, { learningRate: constant(0.0005 * (1 + (seed % 3))) }),
    }
  },
  'rate-high': (seed) => {
    const { document } = hall(seed, { veer: 0.3, stairs: -20, step: -0.1 })
    return showing({
      document,
      choice: goodChoice(document, seed, { learningRate: constant(1 - (seed % 3) / 50) }),
    })
  },
  'rate-falls': (seed) => {
    const { document } = hall(seed, { near: 1 })
    return {
      document,
      choice: goodChoice(document, seed, {
        learningRate: { kind: 'exponential', from: 0.5, to: 1e-6, over: 30 + (seed % 20), per: 'episode' },
      }),
    }
  },
  'exploration-none': (seed) => {
    const { document } = hall(seed, { near: 1 })
    return { document, choice: goodChoice(document, seed, { exploration: epsilon(0) }) }
  },
  'exploration-short': (seed) => {
    const { document } = hall(seed, { near: 1 })
    return {
      document,
      choice: goodChoice(document, seed, {
        exploration: {
          way: 'epsilon-greedy',
          level: { kind: 'linear', from: 1, to: 0.005, over: 3 + (seed % 4), per: 'episode' },
        },
      }),
    }
  },
  'exploring-costs': (seed) => {
    const { document } = hall(seed, { step: -0.5 })
    return {
      document,
      choice: goodChoice(document, seed, {
        method: 'q-learning',
        exploration: epsilon(0.3 + (seed % 3) / 10),
      }),
    }
  },
  'more-episodes': (seed) => {
    const { document } = hall(seed, { near: 1 })
    const episodes = 4 + (seed % 4)
    const level: Schedule = { kind: 'linear', from: 1, to: 0.05, over: episodes - 2, per: 'episode' }
    return {
      document,
      choice: goodChoice(document, seed, { episodes, exploration: { way: 'epsilon-greedy', level } }),
    }
  },
}

function placeOf(cell: string): { column: number; row: number } {
  return { column: cell.charCodeAt(0) - 65, row: Number(cell.slice(1)) - 1 }
}

/** The cell to the right. */
function beside(cell: string): string {
  const { column, row } = placeOf(cell)
  return cellName(column + 1, row)
}
