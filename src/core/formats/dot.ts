import type { Model } from '../model/model'
import { listNames, refuse } from '../problem'

/** Outcomes written at the most: more is no drawing. */
const OUTCOMES = 20_000
/** Up to so many a layered drawing with chance nodes is laid out in a moment; above, layout takes minutes. */
const LAYERED = 300

/**
 * A model as a graph in the DOT language: states are circles, endings boxes, the outcomes of an action leave a
 * diamond. An action with a single outcome has no diamond.
 *
 * Above 300 outcomes a simpler drawing: an arrow from a state to each state that may follow, with the actions that lead
 * there, to be laid out by forces (`sfdp`), which the file asks for.
 * @throws ProblemError for a model that is too large to be drawn
 */
export function writeDot(model: Model, name: string): string {
  if (model.outcomes > OUTCOMES)
    refuse(
      'graph',
      `The model has ${model.outcomes} outcomes; a graph is written up to ${OUTCOMES}.`,
      'Export the transition list, or make the environment smaller.',
    )
  const simple = model.outcomes > LAYERED
  const starts = new Set<number>(model.startState)
  const lines = [
    ...(simple
      ? [`// ${model.outcomes} outcomes: chance nodes are left out. Drawn by: sfdp -Tsvg FILE -o FILE.svg`]
      : []),
    `digraph ${quoted(name)} {`,
    ...(simple
      ? ['  layout=sfdp;', '  overlap=prism;', '  node [shape=circle, fontsize=10];', '  edge [fontsize=8];']
      : ['  rankdir=LR;', '  node [shape=circle];']),
    ...Array.from(
      { length: model.states },
      (_, s) =>
        `  s${s} [label=${quoted(model.labels[s])}${model.ending[s] ? ', shape=box' : ''}${starts.has(s) ? ', style=bold' : ''}];`,
    ),
    ...(simple ? simpleArrows(model) : arrows(model)),
  ]
  return `${lines.join('\n')}\n}\n`
}

function arrows(model: Model): string[] {
  const lines: string[] = []
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
      const action = model.actions[model.rowAction[r]]
      const single = model.outcomeStart[r + 1] - model.outcomeStart[r] === 1
      if (!single) {
        lines.push(`  r${r} [label="", shape=diamond, width=0.2, height=0.2];`)
        lines.push(`  s${s} -> r${r} [label=${quoted(action)}, arrowhead=none];`)
      }
      for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++) {
        const discount = model.outcomeDiscount?.[o] ?? 1
        const reward = `reward ${model.outcomeReward[o]}${discount < 1 ? `, then × ${discount}` : ''}`
        const label = single ? `${action}, ${reward}` : `${model.outcomeProbability[o]}, ${reward}`
        lines.push(`  ${single ? `s${s}` : `r${r}`} -> s${model.outcomeState[o]} [label=${quoted(label)}];`)
      }
    }
  return lines
}

/** One arrow for each pair of states; staying put is not drawn. */
function simpleArrows(model: Model): string[] {
  const lines: string[] = []
  for (let s = 0; s < model.states; s++) {
    const leads = new Map<number, Set<string>>()
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
      for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++) {
        const to = model.outcomeState[o]
        if (to === s) continue
        if (!leads.has(to)) leads.set(to, new Set())
        leads.get(to)!.add(model.actions[model.rowAction[r]])
      }
    for (const [to, actions] of leads)
      lines.push(`  s${s} -> s${to} [label=${quoted(listNames([...actions], 3))}];`)
  }
  return lines
}

function quoted(text: string): string {
  return `"${text.replaceAll('\\', '\\\\').replaceAll('"', '\\"').replaceAll('\n', '\\n')}"`
}
