import type { TextNumbers } from '../kinds/kind'
import { kindOf, type Compiled, type EnvironmentDocument } from '../kinds/kinds'
import type { Model } from '../model/model'
import { formatNumber } from './number'
import { picked } from './picked'

/** Lines of states written at the most: more is no text to read. */
const STATES = 2000

/**
 * An environment, and what was worked out for it, as plain text for a terminal, a mail or a screen reader.
 * @param place  where states lie in more than one layer: a place of the one that is written
 */
export function writePlainText(
  document: EnvironmentDocument,
  compiled: Compiled | null,
  numbers: TextNumbers = {},
  place = 0,
): string {
  const kind = kindOf(document)
  return [
    kind.text(document),
    compiled && (kind.numbersText?.(compiled, numbers, place) ?? stateLines(compiled.model, numbers)),
  ]
    .filter(Boolean)
    .join('\n\n')
    .concat('\n')
}

function stateLines(model: Model, { values, policy }: TextNumbers): string {
  const lines: string[][] = []
  for (let s = 0; s < Math.min(model.states, STATES); s++)
    lines.push([
      model.labels[s],
      ...(values ? [model.ending[s] ? 'ending' : formatNumber(values[s], 4).replaceAll('−', '-')] : []),
      model.ending[s]
        ? values
          ? ''
          : 'ending'
        : policy
          ? picked(model, s, policy, (action) => action)
          : actionNames(model, s),
    ])
  const head = ['state', ...(values ? ['value'] : []), policy ? 'policy' : 'actions']
  const widths = head.map((title, i) => Math.max(title.length, ...lines.map((line) => line[i].length)))
  const write = (line: readonly string[]) =>
    line
      .map((text, i) => text.padEnd(widths[i]))
      .join('  ')
      .trimEnd()
  const more = model.states > STATES ? [`… and ${model.states - STATES} more states`] : []
  return [write(head), ...lines.map(write), ...more].join('\n')
}

function actionNames(model: Model, state: number): string {
  const names = Array.from(model.rowAction.subarray(model.rowStart[state], model.rowStart[state + 1]))
  return names.map((action) => model.actions[action]).join(', ')
}
