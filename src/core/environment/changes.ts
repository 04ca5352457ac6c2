import { kindOf, partOf, type EnvironmentDocument } from '../kinds/kinds'
import { checkEnvironment } from './document'
import {
  fromTree,
  hasItems,
  ruleFor,
  toTree,
  type Change,
  type FieldRules,
  type Leaf,
  type Tree,
} from './tree'

/** How the fields of the head are called and compared. */
export const HEAD_FIELDS: FieldRules = {
  note: { word: 'What a class should look at' },
  discount: { word: 'Discount' },
  cap: { word: 'Cap' },
  knobs: { word: 'Knob', compare: { by: 'name' } },
  policy: { word: 'Drawn policy' },
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

/**
 * A document with changes made that were found on another one: what they do not name stays as it is here.
 * @throws ProblemError when the outcome is no document, as when what a change belongs to has become something else
 */
export function applyChanges(document: EnvironmentDocument, changes: readonly Change[]): EnvironmentDocument {
  if (changes.length === 0) return document
  const tree = treeOf(document)
  for (const { path, after } of changes) put(tree, path, after, document)
  const { kind } = document
  const { fields, parts } = kindOf(document)
  return checkEnvironment({
    ...document,
    ...fromTree(tree, HEAD_FIELDS),
    [kind]: fromTree(tree.get(kind) as Tree, fields, parts),
  })
}

/** The change that takes a change back. */
export function reversed({ path, before, after }: Change): Change {
  return { path, before: after, after: before }
}

/**
 * What becomes of a variant when its base changes: what it says otherwise than the base did stays, all else follows.
 * @throws ProblemError, see {@link applyChanges}
 */
export function followBase(
  variant: EnvironmentDocument,
  before: EnvironmentDocument,
  after: EnvironmentDocument,
): EnvironmentDocument {
  if (variant.kind !== after.kind || before.kind !== after.kind) return variant
  const followed = applyChanges(after, changesBetween(before, variant))
  return { ...followed, name: variant.name }
}

function treeOf(document: EnvironmentDocument): Tree {
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

/** Sets or takes away what a path names. What a change belongs to may be gone: then there is nothing to change. */
function put(
  tree: Tree,
  path: readonly string[],
  after: Leaf | undefined,
  document: EnvironmentDocument,
): void {
  const list = path.slice(0, -1)
  const branch = list.reduce<Tree | Leaf | undefined>(
    (node, key) => (node instanceof Map ? node.get(key) : undefined),
    tree,
  )
  if (!(branch instanceof Map)) return
  const key = path.at(-1)!
  const rule =
    list.length === 1
      ? ruleFor(HEAD_FIELDS, list[0])
      : list.length === 2 && list[0] === document.kind
        ? ruleFor(kindOf(document).fields, list[1])
        : undefined
  if (after === undefined) branch.delete(key)
  else if (hasItems(rule)) branch.set(key, new Map(Object.entries(after as object)) as Tree)
  else branch.set(key, after)
}
