import { compileTable, type TableDocument } from '../../../core/kinds/table/document'
import type { TableEnvironment } from '../../../core/kinds/table/kind'
import { ProblemError } from '../../../core/problem'
import type { Pen } from '../../board/pen'
import type { DrawThumbnail } from '../thumbnail'
import { isDrawable, layOutGraph } from './graph-layout'
import { drawGraph, frameGraph } from './graph-picture'

/** States drawn at the most; the picture shows the first ones. */
const STATES = 40
/** Rows up to which it is drawn as a graph: more would be a thicket. */
const GRAPH_ROWS = 40

export const tableThumbnail: DrawThumbnail<'table'> = (pen, document) => {
  const title = `Which state leads to which in ${document.name}`
  const graph = graphOf(document)
  if (graph) {
    pen.rectangle(0, 0, 300, 240, { fill: 'paper', stroke: 'rule-strong', width: 1.5 })
    drawGraph(pen, graph, frameGraph(graph.layout, 300, 240))
    return { width: 300, height: 240, title }
  }
  drawTransitions(pen, document.table)
  return { width: 240, height: 240, title }
}

/** The graph of a table that is small, and right. */
function graphOf(document: TableEnvironment) {
  if (document.table.transitions.length > GRAPH_ROWS) return null
  try {
    const model = compileTable(document.table, document.cap)
    return isDrawable(model) ? { model, layout: layOutGraph(model, document.table.places) } : null
  } catch (error) {
    if (error instanceof ProblemError) return null
    throw error
  }
}

/** A row a state, a column a next state, a dot for each transition; the darker, the likelier. */
function drawTransitions(pen: Pen, table: TableDocument): void {
  const states = new Map<string, number>()
  for (const [state] of table.transitions) if (!states.has(state)) states.set(state, states.size)
  for (const [, , next] of table.transitions) if (!states.has(next)) states.set(next, states.size)
  const count = Math.min(STATES, states.size)
  const side = 240 / count
  pen.rectangle(0, 0, 240, 240, { fill: 'sheet', stroke: 'rule-strong', width: 1.5 })
  for (let i = 1; i < count; i++) {
    pen.line(i * side, 0, i * side, 240, { stroke: 'rule', width: 0.75 })
    pen.line(0, i * side, 240, i * side, { stroke: 'rule', width: 0.75 })
  }
  for (const [state, , next, probability] of table.transitions) {
    const row = states.get(state)!
    const column = states.get(next)!
    if (row < count && column < count && probability > 0)
      pen.circle((column + 0.5) * side, (row + 0.5) * side, side * 0.32, {
        fill: { from: 'sheet', to: 'ink', part: 0.3 + 0.7 * probability },
      })
  }
}
