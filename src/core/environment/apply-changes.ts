import { kindOf, type EnvironmentDocument } from '../kinds/kinds'
import { changesBetween, HEAD_FIELDS, treeOf } from './changes'
import { checkEnvironment } from './document'
import { fromTree, hasItems, ruleFor, type Change, type Leaf, type Tree } from './tree'

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
