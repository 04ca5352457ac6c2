import { graphlib, layout } from '@dagrejs/dagre'
import type { Model } from '../../../core/model/model'

/** A state, or a chance node: what an action can lead to. */
export interface GraphNode {
  /** `state` or `state\naction`, under which a place that was chosen by hand is kept. */
  readonly key: string
  readonly state: number
  /** The row of a chance node, -1 for a state. */
  readonly row: number
  /** Endings are squares, the other states circles. */
  readonly square: boolean
  readonly x: number
  readonly y: number
}

export interface GraphEdge {
  /** Indices into the nodes. */
  readonly from: number
  readonly to: number
  readonly row: number
  /** The outcome it stands for, -1 from a state to a chance node. */
  readonly outcome: number
  /** How far it bends aside, so that edges between the same two nodes lie apart; in units of the bend. */
  readonly bend: number
}

export interface GraphLayout {
  /** The states first, by number. */
  readonly nodes: readonly GraphNode[]
  readonly edges: readonly GraphEdge[]
  /** [rows] the edge an action begins with */
  readonly edgeOfRow: readonly number[]
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
}

export type Places = Readonly<Record<string, readonly [x: number, y: number]>>

/** The side of a state and of a chance node, in the units of the layout. */
export const STATE_SIDE = 58
export const CHANCE_SIDE = 14
/** Larger graphs are a thicket that shows nothing; they have the table. */
const LIMITS = { states: 60, outcomes: 300 }

export function isDrawable(model: Model): boolean {
  return model.states <= LIMITS.states && model.outcomes <= LIMITS.outcomes
}

/**
 * Places the states of a small model and their chance nodes in layers, starts at the left; an action with a single
 * outcome has no chance node. What was put somewhere by hand stays there.
 */
export function layOutGraph(model: Model, places: Places): GraphLayout {
  const graph = new graphlib.Graph({ multigraph: true })
  graph.setGraph({ rankdir: 'LR', nodesep: 54, ranksep: 54, edgesep: 26, marginx: 0, marginy: 0 })
  graph.setDefaultEdgeLabel(() => ({}))
  const keys: { key: string; state: number; row: number }[] = []
  const edges: Omit<GraphEdge, 'bend'>[] = []
  const edgeOfRow: number[] = []
  const node = (key: string, state: number, row: number) => {
    const side = row < 0 ? STATE_SIDE : CHANCE_SIDE
    // Room for the name below a state.
    graph.setNode(String(keys.length), {
      width: side + (row < 0 ? 26 : 8),
      height: side + (row < 0 ? 22 : 8),
    })
    return keys.push({ key, state, row }) - 1
  }
  const edge = (from: number, to: number, row: number, outcome: number) => {
    if (from !== to) graph.setEdge(String(from), String(to), {}, String(edges.length))
    return edges.push({ from, to, row, outcome }) - 1
  }
  for (let s = 0; s < model.states; s++) node(model.labels[s], s, -1)
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
      const first = model.outcomeStart[r]
      if (model.outcomeStart[r + 1] - first === 1) {
        edgeOfRow[r] = edge(s, model.outcomeState[first], r, first)
        continue
      }
      const chance = node(`${model.labels[s]}\n${model.actions[model.rowAction[r]]}`, s, r)
      edgeOfRow[r] = edge(s, chance, r, -1)
      for (let o = first; o < model.outcomeStart[r + 1]; o++) edge(chance, model.outcomeState[o], r, o)
    }
  layout(graph)
  const nodes = keys.map((each, i): GraphNode => {
    const placed = Object.hasOwn(places, each.key) ? places[each.key] : undefined
    const { x, y } = graph.node(String(i)) as unknown as { x: number; y: number }
    return {
      ...each,
      square: each.row < 0 && model.ending[each.state] === 1,
      x: placed?.[0] ?? x,
      y: placed?.[1] ?? y,
    }
  })
  return { nodes, edges: bent(edges), edgeOfRow, ...bounds(nodes) }
}

/** Edges between the same two nodes fan out; one that has a counterpart the other way gives way to it. */
function bent(edges: readonly Omit<GraphEdge, 'bend'>[]): GraphEdge[] {
  const groups = new Map<string, number[]>()
  edges.forEach(({ from, to }, i) => {
    const key = from < to ? `${from} ${to}` : `${to} ${from}`
    groups.set(key, [...(groups.get(key) ?? []), i])
  })
  const bends = new Float64Array(edges.length)
  for (const group of groups.values())
    group.forEach((i, k) => {
      const { from, to } = edges[i]
      if (from === to) bends[i] = k
      // Bends are to the left of the way from the lower to the higher node, whichever way the edge runs.
      else bends[i] = (k - (group.length - 1) / 2) * (from < to ? 1 : -1)
    })
  return edges.map((edge, i) => ({ ...edge, bend: bends[i] }))
}

function bounds(nodes: readonly GraphNode[]) {
  const half = STATE_SIDE / 2 + 26
  const left = Math.min(...nodes.map(({ x }) => x)) - half
  const top = Math.min(...nodes.map(({ y }) => y)) - half
  return {
    left,
    top,
    width: Math.max(...nodes.map(({ x }) => x)) + half - left,
    height: Math.max(...nodes.map(({ y }) => y)) + half - top,
  }
}
