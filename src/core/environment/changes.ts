import { kindOf, partOf, type EnvironmentDocument } from '../kinds/kinds'
import { toTree, type Change, type FieldRules, type Leaf, type Tree } from './tree'

/** How the fields of the head are called and compared. */
export const HEAD_FIELDS: FieldRules = {
  note: { word: 'What a class should look at' },
  discount: { word: 'Discount' },
  cap: { word: 'Step limit' },
  knobs: { word: 'Knob', compare: { by: 'name' } },
  policy: { word: 'Drawn policy' },
  checks: { word: 'Expectations', compare: 'whole' },
  learning: { word: 'Settings of learning' },
}
/** What belongs to an environment itself and never follows a base. */
const OWN = new Set(['format', 'version', 'kind', 'name'])

/**
 * What has to change in one document to get another of the same kind; names of the environments aside.
 * `applyChanges(one, changesBetween(one, other))` has the content of `other`, lists perhaps in another order.
 */
export function changesBetween(one: EnvironmentDocument, other: EnvironmentDocument): Change[] {
  const changes: Change[] = []
  compare(treeOf(one), treeOf(other), [], changes)
  return changes
}

/** The change that takes a change back. */
export function reversed({ path, before, after }: Change): Change {
  return { path, before: after, after: before }
}

/** A document as nested names. */
export function treeOf(document: EnvironmentDocument): Tree {
  const { kind } = document
  const head = Object.fromEntries(Object.entries(document).filter(([key]) => !OWN.has(key) && key !== kind))
  return toTree(head, HEAD_FIELDS).set(kind, toTree(partOf(document), kindOf(document).fields))
}

function compare(one: Tree, other: Tree, path: readonly string[], changes: Change[]): void {
  for (const [key, before] of one) {
    const after = other.get(key)
    const at = [...path, key]
    if (before instanceof Map && after instanceof Map) compare(before, after, at, changes)
    else if (!same(before, after)) changes.push({ path: at, before: plain(before), after: plain(after) })
  }
  for (const [key, after] of other)
    if (!one.has(key)) changes.push({ path: [...path, key], before: undefined, after: plain(after) })
}

function same(one: Tree | Leaf, other: Tree | Leaf | undefined): boolean {
  return one === other || (other !== undefined && JSON.stringify(plain(one)) === JSON.stringify(plain(other)))
}

/** A branch as a plain object, the form in which changes carry whole items. */
function plain(node: Tree | Leaf): Leaf
function plain(node: Tree | Leaf | undefined): Leaf | undefined
function plain(node: Tree | Leaf | undefined): Leaf | undefined {
  return node instanceof Map ? Object.fromEntries([...node].map(([key, value]) => [key, plain(value)])) : node
}
