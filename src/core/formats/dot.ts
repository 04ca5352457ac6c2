import type { Model } from '../model/model'
import { refuse } from '../problem'

/** Outcomes written at the most: more is no drawing. */
const OUTCOMES = 20_000

/**
 * A model as a graph in the DOT language: states are circles, endings boxes, the outcomes of an action leave a
 * diamond. An action with a single outcome has no diamond.
 * @throws ProblemError for a model that is too large to be drawn
 */
export function writeDot(model: Model, name: string): string {
  if (model.outcomes > OUTCOMES)
    refuse(
      'graph',
      `The model has ${model.outcomes} outcomes; a graph is written up to ${OUTCOMES}.`,
      'Export the transition list, or make the environment smaller.',
    )
  const starts = new Set<number>(model.startState)
  const lines = [
    `digraph ${quoted(name)} {`,
    '  rankdir=LR;',
    '  node [shape=circle];',
    ...Array.from(
      { length: model.states },
      (_, s) =>
        `  s${s} [label=${quoted(model.labels[s])}${model.ending[s] ? ', shape=box' : ''}${starts.has(s) ? ', style=bold' : ''}];`,
    ),
  ]
  for (let s = 0; s < model.states; s++)
    for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
      const action = model.actions[model.rowAction[r]]
      const single = model.outcomeStart[r + 1] - model.outcomeStart[r] === 1
      if (!single) {
        lines.push(`  r${r} [label="", shape=diamond, width=0.2, height=0.2];`)
        lines.push(`  s${s} -> r${r} [label=${quoted(action)}, arrowhead=none];`)
      }
      for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++) {
        const reward = `reward ${model.outcomeReward[o]}`
        const label = single ? `${action}, ${reward}` : `${model.outcomeProbability[o]}, ${reward}`
        lines.push(`  ${single ? `s${s}` : `r${r}`} -> s${model.outcomeState[o]} [label=${quoted(label)}];`)
      }
    }
  return `${lines.join('\n')}\n}\n`
}

function quoted(text: string): string {
  return `"${text.replaceAll('\\', '\\\\').replaceAll('"', '\\"').replaceAll('\n', '\\n')}"`
}
