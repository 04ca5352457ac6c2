import { cellName, parseCellName } from '../kinds/grid/cells'
import { THING_LISTS, type Grid } from '../kinds/grid/document'
import { checkEnvironment, type EnvironmentDocument } from './document'

/** A value that is compared as a whole. */
export type Leaf = string | number | boolean | null | readonly unknown[] | { readonly [key: string]: unknown }
/** A document as nested names: lists are keyed by what their items are called, so that order and numbers do not matter. */
type Tree = Map<string, Tree | Leaf>

/** One difference between two documents. An item of a list that is new or gone is one change. */
export interface Change {
  /** `grid`, `endings`, `J4`, `reward` */
  readonly path: readonly string[]
  /** Undefined where there was nothing. */
  readonly before: Leaf | undefined
  /** Undefined where there is nothing any more. */
  readonly after: Leaf | undefined
}

type Item = Readonly<Record<string, unknown>>

/** The lists whose items have a name of their own, by their path. */
const KEYED: Readonly<Record<string, string>> = {
  knobs: 'name',
  'grid.grounds': 'symbol',
  ...Object.fromEntries(THING_LISTS.map((list) => [`grid.${list}`, 'at'])),
  'bandit.arms': 'name',
  'bandit.contexts': 'name',
  'table.starts': 'state',
}
/** Parts that are compared as a whole: their fields mean nothing without each other. */
const WHOLE = new Set(['bandit.drift', 'grid.floor'])
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
  for (const { path, after } of changes) put(tree, path, after)
  return checkEnvironment({ ...document, ...fromTree(tree, '') })
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
  return toTree(Object.fromEntries(Object.entries(document).filter(([key]) => !OWN.has(key))), '')
}

function toTree(value: Item, path: string): Tree {
  const tree: Tree = new Map()
  for (const [key, field] of Object.entries(value)) {
    const at = path ? `${path}.${key}` : key
    if (at === 'grid.floor') floorTree(tree, value as unknown as Grid)
    else if (at === 'table.transitions') tree.set(key, transitionTree(field as readonly unknown[][]))
    else if (Object.hasOwn(KEYED, at))
      tree.set(
        key,
        new Map(
          (field as Item[]).map((item) => [String(item[KEYED[at]]), new Map(Object.entries(item)) as Tree]),
        ),
      )
    else if (!WHOLE.has(at) && typeof field === 'object' && field !== null && !Array.isArray(field))
      tree.set(key, toTree(field as Item, at))
    else tree.set(key, field as Leaf)
  }
  return tree
}

/** The floor cell by cell, so that two changes of different cells do not touch each other. */
function floorTree(tree: Tree, { floor }: Grid): void {
  tree.set('columns', floor[0].length)
  tree.set('rows', floor.length)
  const cells: Tree = new Map()
  floor.forEach((symbols, row) => {
    for (let column = 0; column < symbols.length; column++) cells.set(cellName(column, row), symbols[column])
  })
  tree.set('floor', cells)
}

/** Transitions by state, action and next state; repeated ones are counted on. */
function transitionTree(transitions: readonly (readonly unknown[])[]): Tree {
  const tree: Tree = new Map()
  for (const transition of transitions) {
    const [state, action, next, probability, reward, discount] = transition
    let key = `${state}, ${action}, ${next}`
    for (let i = 2; tree.has(key); i++) key = `${state}, ${action}, ${next} (${i})`
    tree.set(
      key,
      new Map<string, Leaf>([
        ['names', [state, action, next]],
        ['probability', probability as number],
        ['reward', reward as number],
        ...(discount === undefined ? [] : [['discount', discount as number] as const]),
      ]),
    )
  }
  return tree
}

function fromTree(tree: Tree, path: string): Record<string, unknown> {
  const value: Record<string, unknown> = {}
  for (const [key, node] of tree) {
    const at = path ? `${path}.${key}` : key
    if (at === 'grid.columns' || at === 'grid.rows') continue
    if (at === 'grid.floor') value.floor = floorFrom(tree)
    else if (at === 'table.transitions')
      value.transitions = [...(node as Tree).values()].map((item) => {
        const fields = item as Tree
        return [
          ...(fields.get('names') as readonly unknown[]),
          fields.get('probability'),
          fields.get('reward'),
          ...(fields.has('discount') ? [fields.get('discount')] : []),
        ]
      })
    else if (Object.hasOwn(KEYED, at))
      value[key] = [...(node as Tree).values()].map((item) => Object.fromEntries(item as Tree))
    else value[key] = node instanceof Map ? fromTree(node, at) : node
  }
  return value
}

/** Cells that nobody names, in a grid that has grown, are of its first ground; those beyond its edges are gone. */
function floorFrom(tree: Tree): string[] {
  const cells = tree.get('floor') as Tree
  const [first] = (tree.get('grounds') as Tree).values()
  const plain = String((first as Tree).get('symbol'))
  return Array.from({ length: tree.get('rows') as number }, (_, row) =>
    Array.from({ length: tree.get('columns') as number }, (_, column) =>
      String(cells.get(cellName(column, row)) ?? plain),
    ).join(''),
  )
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
function put(tree: Tree, path: readonly string[], after: Leaf | undefined): void {
  const branch = path
    .slice(0, -1)
    .reduce<Tree | Leaf | undefined>((node, key) => (node instanceof Map ? node.get(key) : undefined), tree)
  if (!(branch instanceof Map)) return
  const key = path.at(-1)!
  const list = path.slice(0, -1).join('.')
  if (after === undefined) branch.delete(key)
  else if (Object.hasOwn(KEYED, list) || list === 'table.transitions')
    branch.set(key, new Map(Object.entries(after as Item)) as Tree)
  else branch.set(key, after)
}

/** Changes of many cells of a floor from one symbol to another, as one line to read. */
export interface CellChange {
  readonly cells: readonly string[]
  readonly before: string | undefined
  readonly after: string | undefined
}

/** Sorts changes for reading: those of floor cells by what becomes of them, the others one by one. */
export function sortChanges(changes: readonly Change[]): { cells: CellChange[]; others: Change[] } {
  const groups = new Map<string, { cells: string[]; before?: string; after?: string }>()
  const others: Change[] = []
  for (const change of changes) {
    const { path, before, after } = change
    if (path[0] !== 'grid' || path[1] !== 'floor') {
      others.push(change)
      continue
    }
    const key = `${before} ${after}`
    const group = groups.get(key) ?? {
      cells: [],
      before: before as string | undefined,
      after: after as string | undefined,
    }
    group.cells.push(path[2])
    groups.set(key, group)
  }
  const byPlace = (x: string, y: string) => {
    const [one, other] = [parseCellName(x)!, parseCellName(y)!]
    return one.row - other.row || one.column - other.column
  }
  return {
    cells: [...groups.values()].map(({ cells, before, after }) => ({
      cells: cells.sort(byPlace),
      before,
      after,
    })),
    others,
  }
}
