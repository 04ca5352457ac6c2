import { num, say, type Part, type Working } from '../explain/working'
import { actionValues, backupRow, greedyPolicy, type BackupForm } from './backup'

/**
 * The last optimal backup of a state written out: every action's outcomes, their sums, the best one marked.
 * @param before [states] the values the backup was computed from
 */
export function backupWorking(form: BackupForm, state: number, before: Float64Array, sweep: number): Working {
  const { model, discount } = form
  const title =
    sweep === 0 ? `${model.labels[state]}, before the first sweep` : `${model.labels[state]}, sweep ${sweep}`
  const formula = [
    say('V(s) ←'),
    say('max over actions of Σ'),
    say('probability', 'probability'),
    say('× ('),
    say('reward', 'reward'),
    say('+'),
    say('discount', 'rate'),
    say('×'),
    say('V(next)', 'next'),
    say(')'),
  ]
  if (model.ending[state])
    return {
      title,
      formula,
      lines: [],
      note: 'Episodes end here: the value is 0 by definition, and never backed up.',
    }
  if (sweep === 0)
    return { title, formula, lines: [], note: 'Every value starts at 0. Take a sweep to see a backup.' }

  const rows = Array.from(
    { length: model.rowStart[state + 1] - model.rowStart[state] },
    (_, k) => model.rowStart[state] + k,
  )
  const best = greedyPolicy(
    Int32Array.of(0, rows.length),
    Float64Array.from(rows, (row) => backupRow(form, row, before)),
  )
  return {
    title,
    formula,
    lines: rows.map((row, k) => ({
      label: model.actions[model.rowAction[row]],
      parts: rowParts(form, row, before, discount),
      strong: best[k] > 0,
    })),
  }
}

function rowParts(form: BackupForm, row: number, before: Float64Array, discount: number): Part[] {
  const { outcomeStart, outcomeState, outcomeProbability, outcomeReward } = form.model
  const parts: Part[] = []
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++) {
    if (parts.length) parts.push(say('+'))
    const next = outcomeState[o]
    parts.push(
      num('probability', outcomeProbability[o]),
      say('× ('),
      num('reward', outcomeReward[o]),
      say('+'),
      num('rate', discount),
      say('×'),
      num('next', before[next], next),
      say(')'),
    )
  }
  parts.push(say('='), num('result', backupRow(form, row, before)))
  return parts
}

/** Values, action values and greedy policy that belong together, for drawing and for files. */
export function planPicture(
  form: BackupForm,
  values: Float64Array,
): { rowValues: Float64Array; policy: Float64Array } {
  const rowValues = actionValues(form, values)
  return { rowValues, policy: greedyPolicy(form.model.rowStart, rowValues) }
}
