import { num, say, type Part, type Working } from '../../../explain/working'
import { formatNumber } from '../../../formats/number'
import type { LearnSettings } from '../../../settings/settings'
import { oneStepTarget, Q, sharedFields, stateOfRow, updateTitle } from '../value/step-working'
import { SLOT, TRACE_SLOT } from '../../slots'
import type { World } from '../../world'

const KINDS = {
  best: { what: Q, latex: Q, words: 'max Q(next, ·)', latexAhead: String.raw`\max_{b} Q(s', b)` },
  taken: { what: Q, latex: Q, words: 'Q(next, next action)', latexAhead: String.raw`Q(s', a')` },
  value: { what: 'V(s)', latex: 'V(s)', words: 'V(next)', latexAhead: String.raw`V(s')` },
}

/** The error of a step, and what of it came to this cell by its trace. */
export function traceWorking(
  world: World,
  { discount, lambda }: LearnSettings,
  slot: Float64Array,
  kind: keyof typeof KINDS,
): Working | undefined {
  const cell = slot[SLOT.row]
  if (cell < 0) return undefined
  const { labels } = world.model
  const [old, reward, next, ahead, result, step, rate] = sharedFields(slot)
  const trace = slot[TRACE_SLOT.trace]
  const error = slot[TRACE_SLOT.error]
  const { what, latex, words, latexAhead } = KINDS[kind]
  const values = kind === 'value'
  const traced = lambda > 0
  const [target, latexTarget] = oneStepTarget(words, latexAhead)
  const before = reward + discount * ahead - error
  const state = values ? world.someState(cell) : stateOfRow(world, cell)
  const errorParts: Part[] = [
    num('reward', reward),
    say('+'),
    num('rate', discount),
    say('×'),
    num('next', ahead, next),
    say('−'),
    num('old', before),
    say('='),
    num('plain', error),
  ]
  return {
    title: updateTitle(world, state, values ? -1 : cell, step),
    formula: [
      say(`${what} ←`),
      say(what, 'old'),
      say('+'),
      say('learning rate', 'rate'),
      ...(traced ? [say('×'), say('trace', 'probability')] : []),
      say('× ('),
      ...target,
      say('−'),
      say(values ? 'V(left)' : 'Q(left, taken)', 'old'),
      say(')'),
    ],
    latex: traced
      ? String.raw`${latex} \leftarrow \was{${latex}} + \rate{\alpha}\,\chance{e}\,\bigl(${latexTarget} - \was{${values ? 'V(s_t)' : 'Q(s_t, a_t)'}}\bigr)`
      : String.raw`${latex} \leftarrow \was{${latex}} + \rate{\alpha}\,\bigl(${latexTarget} - \was{${latex}}\bigr)`,
    lines: [
      { label: 'error of the step', parts: errorParts },
      {
        label: 'new value',
        parts: [
          num('old', old),
          say('+'),
          num('rate', rate),
          ...(traced ? [say('×'), num('probability', trace)] : []),
          say('×'),
          num('plain', error),
          say('='),
          num('result', result),
        ],
        strong: true,
      },
    ],
    note: [
      world.ending[next] === 1 ? `Nothing comes after ${labels[next]}, an ending.` : '',
      !traced
        ? ''
        : trace === 1
          ? 'A trace of 1: this was just visited, and takes the whole of the error.'
          : `A trace of ${formatNumber(trace, 3)}: visited a while ago. It fades by ${formatNumber(discount * lambda, 3)} (discount × λ) in every step.`,
    ]
      .filter(Boolean)
      .join(' '),
  }
}
