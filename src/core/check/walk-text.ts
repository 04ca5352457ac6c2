import { writeCsv } from '../formats/csv'
import { formatNumber, signedNumber } from '../formats/number'
import type { Model } from '../model/model'
import { chosenAction, type WalkStep } from './walk-steps'

const number = (value: number) => (Number.isFinite(value) ? value : '')

/** A walk as a table, a line a step. RFC 4180; numbers in full. */
export function walkCsv(model: Model, steps: readonly WalkStep[]): string {
  return writeCsv(
    [
      'step',
      'state',
      'action',
      'carried_out',
      'outcome',
      'probability',
      'reward',
      'next_state',
      'discounted_return',
      'undiscounted_return',
    ],
    steps.map((step, i) => [
      i + 1,
      model.labels[step.state],
      chosenAction(model, step),
      step.instead ?? chosenAction(model, step),
      step.fell,
      number(step.probability),
      number(step.reward),
      model.labels[step.next],
      number(step.collected),
      number(step.sum),
    ]),
  )
}

/** A walk as plain text, a line a step: `1. A2: east (veers north), −1, to A1`. */
export function walkText(model: Model, start: number, steps: readonly WalkStep[]): string {
  const lines = steps.map((step, i) => {
    const fell = step.fell ? ` (${step.fell})` : ''
    return `${i + 1}. ${model.labels[step.state]}: ${chosenAction(model, step)}${fell}, ${signedNumber(step.reward)}, to ${model.labels[step.next]}`
  })
  const last = steps.at(-1)
  return [
    `Begins in ${model.labels[start]}.`,
    ...lines,
    ...(last
      ? [
          `Return ${formatNumber(last.collected, 4)} discounted, ${formatNumber(last.sum, 4)} undiscounted${model.ending[last.next] ? '; the episode has ended' : ''}.`,
        ]
      : []),
    '',
  ].join('\n')
}
