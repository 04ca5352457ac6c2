import { listNames } from '../problem'
import { sortChanges, type Change, type Leaf } from './changes'
import type { EnvironmentDocument } from './document'

/** One line of a readable difference. */
export interface ChangeLine {
  /** What it is about: `Ending D2, reward`. */
  readonly what: string
  readonly before: string | null
  readonly after: string | null
  /** The changes it stands for. */
  readonly changes: readonly Change[]
}

/** How the parts of a document are called. */
const WORDS: Readonly<Record<string, string>> = {
  note: 'What a class should look at',
  discount: 'Discount',
  cap: 'Cap',
  knobs: 'Knob',
  policy: 'Drawn policy',
  learning: 'Settings of learning',
  'grid.starts': 'Start',
  'grid.endings': 'Ending',
  'grid.bonuses': 'Bonus',
  'grid.sendBacks': 'Send-back',
  'grid.jumps': 'Jump',
  'grid.tokens': 'Token',
  'grid.gates': 'Gate',
  'grid.draughts': 'Draught',
  'grid.grounds': 'Ground',
  'grid.stepReward': 'Reward of a step',
  'grid.veer': 'Veer chance',
  'grid.stall': 'Stall chance',
  'grid.reverse': 'Reverse chance',
  'grid.stay': 'May stay',
  'grid.diagonalCosts': 'A diagonal costs its length',
  'grid.moves': 'Moves',
  'grid.columns': 'Columns',
  'grid.rows': 'Rows',
  'bandit.arms': 'Arm',
  'bandit.contexts': 'Context',
  'bandit.pulls': 'Pulls in an episode',
  'bandit.drift': 'Drift',
  'bandit.hidden': 'The truth is hidden',
  'table.transitions': 'Transition',
  'table.starts': 'Start',
  'table.places': 'Place on the board',
  'rulebook.text': 'Text of the rulebook',
  'rulebook.knobs': 'Knob',
  'rulebook.view': 'View',
}

/** Changes in words, those of many cells together. `document` is the one they are found in, for its grounds. */
export function describeChanges(changes: readonly Change[], document: EnvironmentDocument): ChangeLine[] {
  const { cells, others } = sortChanges(changes)
  const grounds = document.kind === 'grid' ? document.grid.grounds : []
  const groundName = (symbol: string | undefined) =>
    symbol === undefined
      ? null
      : symbol === '#'
        ? 'wall'
        : (grounds.find((ground) => ground.symbol === symbol)?.name ?? symbol)
  return [
    ...cells.map(({ cells: names, before, after }) => ({
      what: `${names.length === 1 ? 'Cell' : `${names.length} cells,`} ${listNames(names, 6)}`,
      before: groundName(before),
      after: groundName(after),
      changes: changes.filter(
        (change) =>
          change.path[1] === 'floor' &&
          change.before === before &&
          change.after === after &&
          change.path[0] === 'grid',
      ),
    })),
    ...others.map((change) => ({
      what: nameOf(change.path),
      before: change.before === undefined ? null : valueText(change.before),
      after: change.after === undefined ? null : valueText(change.after),
      changes: [change],
    })),
  ]
}

function nameOf(path: readonly string[]): string {
  for (let length = Math.min(2, path.length); length > 0; length--) {
    const word = WORDS[path.slice(0, length).join('.')]
    if (word) return [[word, path[length]].filter(Boolean).join(' '), ...path.slice(length + 1)].join(', ')
  }
  return path.join(', ')
}

function valueText(value: Leaf): string {
  if (value === true) return 'yes'
  if (value === false) return 'no'
  if (value === null) return 'none'
  if (typeof value !== 'object') return String(value)
  if (Array.isArray(value)) return value.map((each) => valueText(each as Leaf)).join(', ')
  return Object.entries(value as Record<string, Leaf>)
    .filter(([key, field]) => key !== 'at' && key !== 'names' && field !== '' && field !== null)
    .map(([key, field]) => `${key} ${valueText(field)}`)
    .join(', ')
}
