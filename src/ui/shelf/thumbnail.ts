import type { Bandit } from '../../core/kinds/bandit/document'
import { compileEnvironment } from '../../core/environment/compile'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { TableEnvironment } from '../../core/kinds/table/kind'
import { ProblemError } from '../../core/problem'
import type { TableDocument } from '../../core/kinds/table/document'
import { drawBandit, rewardRange } from '../board/bandit-picture'
import { isDrawable, layOutGraph } from '../board/graph-layout'
import { drawGraph, frameGraph } from '../board/graph-picture'
import { drawGrid } from '../board/grid-picture'
import type { Pen } from '../board/pen'
import { SvgPen } from '../board/svg-pen'

/** States of a table drawn at the most; the picture shows the first ones. */
const STATES = 40
/** Lines of a rulebook shown, and letters of a line. */
const LINES = 15
const LINE = 40
/** Arms of a bandit drawn at the most. */
const ARMS = 6
/** Rows of a table up to which it is drawn as a graph: more would be a thicket. */
const GRAPH_ROWS = 40

/** A small true picture of an environment, as SVG. */
export function thumbnail(document: EnvironmentDocument): string {
  const pen = new SvgPen()
  if (document.kind === 'grid') {
    const side = 240 / Math.max(document.grid.floor[0].length * 0.75, document.grid.floor.length)
    drawGrid(pen, { grid: document.grid }, side)
    return pen.svg(
      document.grid.floor[0].length * side,
      document.grid.floor.length * side,
      `The board of ${document.name}`,
    )
  }
  if (document.kind === 'rulebook') {
    drawPage(pen, document.rulebook.text)
    return pen.svg(240, 240, `The first lines of ${document.name}`)
  }
  if (document.kind === 'bandit') {
    drawArms(pen, document.bandit)
    return pen.svg(240, 240, `The arms of ${document.name}`)
  }
  const graph = graphOf(document)
  if (graph) {
    pen.rectangle(0, 0, 300, 240, { fill: 'paper', stroke: 'rule-strong', width: 1.5 })
    drawGraph(pen, graph, frameGraph(graph.layout, 300, 240))
    return pen.svg(300, 240, `Which state leads to which in ${document.name}`)
  }
  drawTransitions(pen, document.table)
  return pen.svg(240, 240, `Which state leads to which in ${document.name}`)
}

/** The first lines of a rulebook, as they stand on its page. */
function drawPage(pen: Pen, text: string): void {
  pen.rectangle(0, 0, 240, 240, { fill: 'sheet', stroke: 'rule-strong', width: 1.5 })
  const lines = text.split('\n').filter((line) => line.trim() !== '' && !line.trim().startsWith('#'))
  lines.slice(0, LINES).forEach((line, i) => {
    const shown = line.length > LINE ? `${line.slice(0, LINE - 1)}…` : line
    pen.text(12, 17 + i * 15, shown, { size: 11.5, colour: 'ink', align: 'left' })
  })
}

/** The graph of a table that is small, and right. */
function graphOf(document: TableEnvironment) {
  if (document.table.transitions.length > GRAPH_ROWS) return null
  try {
    const { model } = compileEnvironment(document)
    return isDrawable(model) ? { model, layout: layOutGraph(model, document.table.places) } : null
  } catch (error) {
    if (error instanceof ProblemError) return null
    throw error
  }
}

/** The first arms with what they pay, covered where the truth is hidden. */
function drawArms(pen: Pen, { arms, hidden }: Bandit): void {
  const shown = arms.slice(0, ARMS).map(({ name, pays }) => ({ name, pays: pays[0] }))
  const picture = {
    arms: shown,
    ...rewardRange(shown.map(({ pays }) => pays)),
    hidden,
    layers: new Set<never>(),
    estimateTitle: '',
  }
  pen.rectangle(0, 0, 240, 240, { fill: 'sheet', stroke: 'rule-strong', width: 1.5 })
  drawBandit(pen, picture, {
    left: 90,
    right: 232,
    top: 6,
    band: 196 / shown.length,
    width: 240,
    height: 240,
  })
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
