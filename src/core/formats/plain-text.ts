import type { Compiled, EnvironmentDocument } from '../environment/document'
import { writeGridMap } from '../kinds/grid/grid-text'
import { cellName } from '../kinds/grid/cells'
import type { Model } from '../model/model'
import { payOffText } from '../kinds/bandit/pay-off'
import { formatNumber } from './number'

/** Numbers that belong to the states and rows of a model, as far as there are any. */
export interface TextNumbers {
  readonly values?: Float64Array
  readonly policy?: Float64Array
}

/** Lines of states written at the most: more is no text to read. */
const STATES = 2000

/**
 * An environment, and what was worked out for it, as plain text for a terminal, a mail or a screen reader.
 * @param slice  of a grid whose states hold something: which of its slices
 */
export function writePlainText(
  document: EnvironmentDocument,
  compiled: Compiled | null,
  numbers: TextNumbers = {},
  slice = 0,
): string {
  const parts: string[] = []
  if (document.kind === 'grid') parts.push(writeGridMap(document.grid).trimEnd())
  if (document.kind === 'bandit' && !document.bandit.hidden) parts.push(armsText(document.bandit.arms))
  if (document.kind === 'rulebook') parts.push(document.rulebook.text.trimEnd())
  if (compiled) {
    const layout = compiled.layout
    if (layout) {
      const shown = layout.slices[slice] ?? layout.slices[0]
      if (numbers.values) parts.push(gridNumbers(compiled, shown.stateOfCell, numbers, shown.title))
    } else parts.push(stateLines(compiled.model, numbers))
  }
  return parts.join('\n\n') + '\n'
}

/** A table of numbers, and one of moves, laid out as the grid lies. */
function gridNumbers(
  { model, layout }: Compiled,
  stateOfCell: Int32Array,
  { values, policy }: TextNumbers,
  title: string,
): string {
  const { columns, rows } = layout!
  const table = (what: string, write: (state: number) => string) => {
    const texts = Array.from({ length: rows }, (_, row) =>
      Array.from({ length: columns }, (_, column) => {
        const state = stateOfCell[row * columns + column]
        return state < 0 ? '' : write(state)
      }),
    )
    const head = Array.from({ length: columns }, (_, column) => cellName(column, 0).replace(/\d+$/, ''))
    const width = Math.max(3, ...texts.flat().map((text) => text.length), ...head.map((text) => text.length))
    const line = (label: string, cells: readonly string[]) =>
      `${label.padStart(3)} ${cells.map((text) => text.padStart(width)).join(' ')}`.trimEnd()
    return [
      `${what}${title ? ` ${title}` : ''}`,
      line('', head),
      ...texts.map((cells, row) => line(String(row + 1), cells)),
    ].join('\n')
  }
  return [
    table('Values', (s) => (model.ending[s] ? 'end' : formatNumber(values![s], 3).replaceAll('−', '-'))),
    ...(policy ? [table('Policy', (s) => (model.ending[s] ? 'end' : picked(model, s, policy, short)))] : []),
  ].join('\n\n')
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

/** The actions a policy picks, joined by `|`, with their chances where there are several. */
function picked(
  model: Model,
  state: number,
  policy: Float64Array,
  write: (action: string) => string,
): string {
  const actions: string[] = []
  for (let r = model.rowStart[state]; r < model.rowStart[state + 1]; r++)
    if (policy[r] >= 0.005) actions.push(write(model.actions[model.rowAction[r]]))
  return actions.join('|')
}

function actionNames(model: Model, state: number): string {
  const names = Array.from(model.rowAction.subarray(model.rowStart[state], model.rowStart[state + 1]))
  return names.map((action) => model.actions[action]).join(', ')
}

/** `N`, `NE`, `stay`. */
function short(action: string): string {
  const match = /^(north|south)?(east|west)?$/.exec(action)
  return match && action ? `${match[1]?.[0] ?? ''}${match[2]?.[0] ?? ''}`.toUpperCase() : action
}

function armsText(
  arms: readonly { name: string; pays: readonly Parameters<typeof payOffText>[0][] }[],
): string {
  return arms.map(({ name, pays }) => `${name}: ${pays.map(payOffText).join(' | ')}`).join('\n')
}
