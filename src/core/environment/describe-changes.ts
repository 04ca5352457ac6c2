import { kindOf, type EnvironmentDocument } from '../kinds/kinds'
import { HEAD_FIELDS } from './changes'
import { ruleFor, type Change, type ChangeLine, type Leaf } from './tree'

/** Changes in words. `document` is the one they are found in. */
export function describeChanges(changes: readonly Change[], document: EnvironmentDocument): ChangeLine[] {
  const { lines, others } = kindOf(document).describe?.(changes, document) ?? { lines: [], others: changes }
  return [
    ...lines,
    ...others.map((change) => ({
      what: nameOf(change.path, document),
      before: change.before === undefined ? null : valueText(change.before),
      after: change.after === undefined ? null : valueText(change.after),
      changes: [change],
    })),
  ]
}

function nameOf(path: readonly string[], document: EnvironmentDocument): string {
  const { fields, parts = {} } = kindOf(document)
  const [first, second] = path
  const isOwn = first === document.kind
  const word = isOwn
    ? (ruleFor(fields, second)?.word ?? (Object.hasOwn(parts, second) ? parts[second] : undefined))
    : ruleFor(HEAD_FIELDS, first)?.word
  if (!word) return path.join(', ')
  const length = isOwn ? 2 : 1
  return [[word, path[length]].filter(Boolean).join(' '), ...path.slice(length + 1)].join(', ')
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
