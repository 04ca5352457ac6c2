/** A value that is compared as a whole. */
export type Leaf = string | number | boolean | null | readonly unknown[] | { readonly [key: string]: unknown }
/** A document as nested names: lists are keyed by what their items are called, so that order and numbers do not matter. */
export type Tree = Map<string, Tree | Leaf>

/** One difference between two documents. An item of a list that is new or gone is one change. */
export interface Change {
  /** `grid`, `endings`, `J4`, `reward` */
  readonly path: readonly string[]
  /** Undefined where there was nothing. */
  readonly before: Leaf | undefined
  /** Undefined where there is nothing any more. */
  readonly after: Leaf | undefined
}

/** One line of a readable difference. */
export interface ChangeLine {
  /** What it is about: `Ending D2, reward`. */
  readonly what: string
  readonly before: string | null
  readonly after: string | null
  /** The changes it stands for. */
  readonly changes: readonly Change[]
}

/** How a field of a document is called in a difference, and how two of its values are compared. */
export interface FieldRule {
  readonly word: string
  /** `whole`: its parts mean nothing without each other. Otherwise by its parts, or a list by what its items are called. */
  readonly compare?: 'whole' | { readonly by: string } | Split
}

/** A field with a form of its own to be compared in. */
export interface Split {
  /** Puts what stands for the field into the tree of what it belongs to. */
  split(tree: Tree, field: unknown): void
  /** The field again. */
  join(tree: Tree): unknown
  /** True where the items that stand for it are taken in and out as a whole. */
  readonly items: boolean
}

export type FieldRules = Readonly<Record<string, FieldRule>>

/** Sets of names to compare by: what the name of a field means, by its path from the document. */
export function toTree(value: object, rules: FieldRules): Tree {
  const tree: Tree = new Map()
  for (const [key, field] of Object.entries(value)) {
    const compare = ruleFor(rules, key)?.compare
    if (compare === 'whole') tree.set(key, field as Leaf)
    else if (compare && 'split' in compare) compare.split(tree, field)
    else if (compare) tree.set(key, itemsTree(field as readonly object[], compare.by))
    else if (typeof field === 'object' && field !== null && !Array.isArray(field))
      tree.set(key, toTree(field as object, {}))
    else tree.set(key, field as Leaf)
  }
  return tree
}

/** The other way round; what no rule knows and only stood beside a split field is left out by `parts`. */
export function fromTree(
  tree: Tree,
  rules: FieldRules,
  parts: Readonly<Record<string, string>> = {},
): Record<string, unknown> {
  const value: Record<string, unknown> = {}
  for (const [key, node] of tree) {
    if (Object.hasOwn(parts, key)) continue
    const compare = ruleFor(rules, key)?.compare
    if (compare && compare !== 'whole' && 'split' in compare) value[key] = compare.join(tree)
    else if (compare && compare !== 'whole')
      value[key] = [...(node as Tree).values()].map((item) => Object.fromEntries(item as Tree))
    else value[key] = node instanceof Map ? fromTree(node, {}) : node
  }
  return value
}

/** Whether what stands in a field are items, taken in and out as a whole. */
export function hasItems(rule: FieldRule | undefined): boolean {
  const compare = rule?.compare
  return compare !== undefined && compare !== 'whole' && ('by' in compare || compare.items)
}

export function ruleFor(rules: FieldRules, key: string): FieldRule | undefined {
  return Object.hasOwn(rules, key) ? rules[key] : undefined
}

function itemsTree(items: readonly object[], by: string): Tree {
  return new Map(
    items.map((item) => [
      String((item as Readonly<Record<string, unknown>>)[by]),
      new Map(Object.entries(item)) as Tree,
    ]),
  )
}
