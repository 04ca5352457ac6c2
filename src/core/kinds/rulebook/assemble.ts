import { finishModel, type CompressedRows } from '../../model/builder'
import type { Model } from '../../model/model'
import { ProblemError } from '../../problem'
import { measuredThrough, passThrough, startsAfterPassing } from './passing'
import { RuleFault, type LineMap } from './place'
import type { Choice, Program } from './program'
import type { StateNames } from './state-names'
import type { Variable } from './variables'

/** What was found of the states of a rulebook. */
export interface Found {
  readonly rows: CompressedRows
  readonly starts: readonly { readonly state: number; readonly weight: number }[]
  /** [states] 1 where time passes by itself */
  readonly passing: Uint8Array
  /** [states] */
  readonly observation: Int32Array
  /** [measures][rows] */
  readonly measured: readonly Float64Array[]
  readonly cap: number
  /** Whether a way to end after a step has come up. */
  isMet(ending: number): boolean
}

/**
 * The model of all states that were found, without those that pass by themselves.
 * @returns `order`: the states of the model, by their numbers in `found`
 * @throws RuleFault, ProblemError where they make no model
 */
export function assemble(
  program: Program,
  lines: LineMap,
  names: StateNames,
  found: Found,
): { model: Model; order: Int32Array; measures: readonly Float64Array[] } {
  const { rows, starts, measures, order } = withoutPassing(program, names, found)
  const labels = Array.from(order, (s) => names.state(s))
  names.refuseSame(labels, found.isMet)
  const ending = (state: number) => rows.rowStart[state] === rows.rowStart[state + 1]
  const begin = starts.filter(({ state }) => !ending(state))
  if (!begin.length)
    throw new RuleFault({
      ...program.starts[0],
      cause: 'Every start is an ending.',
      remedy: 'Start in a state in which there is something to decide.',
    })
  const model = finished(program, lines, rows, {
    labels,
    actions: program.choices.map(({ label }) => label),
    actionLevels: levelsOf(program),
    starts: begin,
    cap: found.cap,
    // Endings that are called like a state were refused above.
    distinct: program.variables.every(tellsApart),
    observation: program.observe ? renumbered(order, found.observation) : undefined,
  })
  return { model, order, measures }
}

function withoutPassing(
  program: Program,
  names: StateNames,
  { rows, starts, passing, measured }: Found,
): Pick<Found, 'rows' | 'starts'> & { measures: readonly Float64Array[]; order: Int32Array } {
  const count = passing.length
  const order = Int32Array.from({ length: count }, (_, s) => s)
  if (!program.pass || !passing.includes(1)) return { rows, starts, measures: measured, order }
  const passed = passThrough(rows, passing, program.pass.discount)
  if (passed.outcome === 'for-ever')
    throw new RuleFault({
      ...program.pass.span,
      cause: `In the state ${names.state(passed.state)} time passes for ever: no decision and no ending comes.`,
      remedy: 'Let the next lines lead out of it, or add “end when …”.',
    })
  if (passed.outcome === 'too-many')
    throw new RuleFault({
      ...program.pass.span,
      cause: 'The stretches that pass by themselves lead to too many different states.',
      remedy: 'Make the variables smaller, or let fewer states pass.',
    })
  const numbers = new Int32Array(count).fill(-1)
  const left = order.filter((s) => !passing[s])
  left.forEach((s, i) => (numbers[s] = i))
  return {
    order: left,
    measures: measured.map((perRow) => measuredThrough(rows, passing, perRow)),
    rows: {
      ...passed.rows,
      rowStart: Int32Array.from([
        ...Array.from(left, (s) => passed.rows.rowStart[s]),
        passed.rows.rowStart[count],
      ]),
      outcomeState: passed.rows.outcomeState.map((s) => numbers[s]),
    },
    starts: startsAfterPassing(starts, passing, passed.exits).map(({ state, weight }) => ({
      state: numbers[state],
      weight,
    })),
  }
}

/** Whether no two values of a variable are written alike: then no two states are called alike. */
function tellsApart({ dimensions }: Variable): boolean {
  return dimensions.every(({ texts }) => new Set(texts).size === texts.length)
}

/** The numbers that actions are levels of, where they belong to one action and are all there is to it. */
function levelsOf({ choices }: Program): Float64Array | null {
  const isLevel = ({ parts }: Choice) => parts.length === 1 && !parts[0].isWord
  const groups = new Set(choices.filter(isLevel).map(({ group }) => group))
  if (groups.size !== 1) return null
  return Float64Array.from(choices, (choice) => (isLevel(choice) ? choice.parts[0].value : NaN))
}

/** What is wrong with a finished model is wrong with what the agent sees: the line that says so is named. */
function finished(program: Program, lines: LineMap, ...args: Parameters<typeof finishModel>): Model {
  try {
    return finishModel(...args)
  } catch (error) {
    const span = program.observeSpan
    if (!(error instanceof ProblemError) || !span) throw error
    throw new ProblemError(
      error.problems.map(({ place, cause, remedy }) =>
        lines.problem({ ...span, cause: `${cause.replace(/\.$/, '')}: ${place}.`, remedy }),
      ),
    )
  }
}

/** Observations numbered from 0 in the order of the states that are left. */
function renumbered(order: Int32Array, observation: Int32Array): Int32Array {
  const numbers = new Map<number, number>()
  return order.map((s) => {
    const seen = observation[s]
    if (!numbers.has(seen)) numbers.set(seen, numbers.size)
    return numbers.get(seen)!
  })
}
