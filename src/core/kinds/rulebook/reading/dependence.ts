import { readBy } from '../mentions'
import { parseRulebook } from '../parser'
import { spanOf, type Span } from '../place'
import type { Rule } from '../syntax'

export type PartKind =
  'state' | 'action' | 'chance' | 'let' | 'reward' | 'discount' | 'next' | 'measure' | 'end' | 'pass'

/** Something that rules say, in the picture of what depends on what. */
export interface DependentPart extends Span {
  readonly id: string
  readonly kind: PartKind
  readonly label: string
  /** The column: what it depends on stands further left. */
  readonly column: number
  /** The place in its column, from 0. */
  readonly place: number
}

export interface Dependence {
  readonly parts: readonly DependentPart[]
  /** Pairs of ids: what is read, and what reads it. */
  readonly arrows: readonly (readonly [from: string, to: string])[]
  readonly columns: number
  /** Parts of the fullest column. */
  readonly most: number
}

/** Rules whose lines are one part together. */
const JOINED = {
  reward: 'reward',
  discount: 'discount',
  end: 'the end',
  pass: 'passes by itself',
} as const
/** What nothing else reads stands at the right. */
const LAST: ReadonlySet<PartKind> = new Set(['reward', 'discount', 'next', 'measure', 'end'])
/** Sweeps in which parts are put near to what they are joined with. */
const SWEEPS = 6

/** What depends on what in a rulebook: states, actions, chances, lets and what a step comes to. Knobs and tables are left out. */
export function dependenceOf(text: string): Dependence {
  const { rules } = parseRulebook(text)
  const found = new Map<string, Omit<DependentPart, 'column' | 'place'> & { readonly reads: Set<string> }>()
  const note = (id: string, kind: PartKind, label: string, span: Span) => {
    if (!found.has(id)) found.set(id, { id, kind, label, ...spanOf(span), reads: new Set() })
    return found.get(id)!
  }
  /** The parts that a name stands for: several where actions have a part of one name. */
  const named = new Map<string, string[]>()
  const name = (text: string, id: string) => named.set(text, [...(named.get(text) ?? []), id])
  const read = (reader: { reads: Set<string>; id: string }, rule: Rule, own: readonly string[] = []) => {
    const { names, nexts } = readBy(rule)
    for (const each of names)
      if (!own.includes(each))
        for (const id of named.get(each) ?? []) if (id !== reader.id) reader.reads.add(id)
    for (const each of nexts) if (`next ${each}` !== reader.id) reader.reads.add(`next ${each}`)
  }
  for (const rule of rules) {
    switch (rule.type) {
      case 'state':
      case 'chance':
      case 'let':
      case 'measure': {
        const { text: label } = rule.name
        read(note(label, rule.type, label, rule), rule)
        name(label, label)
        break
      }
      case 'action': {
        const { text: label } = rule.name
        const part = note(`action ${label}`, 'action', label, rule)
        const own = [...(rule.levels ? [label] : []), ...rule.parts.map((each) => each.name.text)]
        read(part, rule, own)
        for (const each of own) name(each, part.id)
        break
      }
      case 'next': {
        const label = `next ${rule.name.text}`
        read(note(label, 'next', label, rule), rule)
        break
      }
      case 'reward':
      case 'discount':
      case 'end':
      case 'pass':
        read(note(rule.type, rule.type, JOINED[rule.type], rule), rule)
        break
      case 'knob':
      case 'table':
      case 'start':
      case 'check':
      case 'policy':
      case 'observe':
      case 'same':
      case 'impossible':
        break
      default:
        rule satisfies never
    }
  }
  // `action` stands for whatever is chosen.
  const actions = [...found.values()].filter(({ kind }) => kind === 'action')
  for (const rule of rules) {
    if (!readBy(rule).names.has('action')) continue
    const id = rule.type === 'next' ? `next ${rule.name.text}` : 'name' in rule ? rule.name.text : rule.type
    for (const action of actions) found.get(id)?.reads.add(action.id)
  }
  return laidOut([...found.values()])
}

function laidOut(
  found: readonly (Omit<DependentPart, 'column' | 'place'> & { readonly reads: Set<string> })[],
): Dependence {
  const parts = new Map(found.map((part) => [part.id, part]))
  const columnOf = new Map<string, number>()
  const column = (id: string): number => {
    const known = columnOf.get(id)
    if (known !== undefined) return known
    // Rules read what stands above them alone; should one read itself, it stands where it is.
    columnOf.set(id, 0)
    const reads = [...(parts.get(id)?.reads ?? [])].filter((each) => parts.has(each))
    const own = reads.length ? 1 + Math.max(...reads.map(column)) : 0
    columnOf.set(id, own)
    return own
  }
  for (const { id } of found) column(id)
  const isRead = new Set(found.flatMap(({ reads }) => [...reads]))
  const last = Math.max(0, ...columnOf.values())
  for (const { id, kind } of found) if (LAST.has(kind) && !isRead.has(id)) columnOf.set(id, Math.max(last, 1))
  const arrows = found.flatMap(({ id, reads }) =>
    [...reads].filter((each) => parts.has(each)).map((each): [string, string] => [each, id]),
  )
  const columns: string[][] = Array.from({ length: Math.max(0, ...columnOf.values()) + 1 }, () => [])
  for (const { id } of found) columns[columnOf.get(id)!].push(id)
  order(columns, arrows)
  const placeOf = new Map(columns.flatMap((ids) => ids.map((id, place) => [id, place] as const)))
  return {
    parts: found.map(({ reads: _, ...part }) => ({
      ...part,
      column: columnOf.get(part.id)!,
      place: placeOf.get(part.id)!,
    })),
    arrows,
    columns: columns.length,
    most: Math.max(0, ...columns.map((ids) => ids.length)),
  }
}

/** Puts parts of a column near the mean place of what they are joined with (Sugiyama, Tagawa & Toda 1981). */
function order(columns: string[][], arrows: readonly (readonly [string, string])[]): void {
  const joined = new Map<string, string[]>()
  for (const [from, to] of arrows) {
    joined.set(from, [...(joined.get(from) ?? []), to])
    joined.set(to, [...(joined.get(to) ?? []), from])
  }
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    for (const ids of columns) {
      // Places as parts of the height of their column, which are of different lengths.
      const at = new Map(
        columns.flatMap((each) => each.map((id, i) => [id, (i + 0.5) / each.length] as const)),
      )
      const mean = (id: string) => {
        const others = joined.get(id) ?? []
        return others.length
          ? others.reduce((sum, each) => sum + at.get(each)!, 0) / others.length
          : at.get(id)!
      }
      const wanted = new Map(ids.map((id) => [id, mean(id)]))
      ids.sort((x, y) => wanted.get(x)! - wanted.get(y)!)
    }
  }
}
