import { num, say, type Part, type Working, type WorkingLine } from '../explain/working'
import { formatNumber } from '../formats/number'
import type { RowPolicy } from '../model/model'
import type { PlanPhase } from './planner'
import { actionValues, backupRow, greedyPolicy, type BackupForm } from './backup'

/** A sweep, as far as the working of a state needs it. */
export interface SweepStep {
  readonly sweep: number
  readonly phase: PlanPhase
  /** [states] before and after the sweep */
  readonly before: Float64Array
  readonly values: Float64Array
  /** [rows] the policy that was followed, or was found by an improvement */
  readonly policy: RowPolicy | null
  /** [states] the order of a sweep in place; null when every backup used the values before */
  readonly rank: Int32Array | null
}

const BACKUP = [
  say('probability', 'probability'),
  say('× ('),
  say('reward', 'reward'),
  say('+'),
  say('discount', 'rate'),
  say('×'),
  say('V(next)', 'next'),
  say(')'),
]
const FORMULAS: Record<PlanPhase, readonly Part[]> = {
  optimise: [say('V(s) ←'), say('max over actions of Σ'), ...BACKUP],
  evaluate: [say('V(s) ←'), say('Σ over actions of'), say('policy', 'probability'), say('× Σ'), ...BACKUP],
  improve: [say('policy(s) ←'), say('the actions with the largest Σ'), ...BACKUP],
}

/** The last backup of a state written out: every action's outcomes, their sums, the best or the followed ones marked. */
export function backupWorking(form: BackupForm, state: number, step: SweepStep): Working {
  const { model, discount } = form
  const { sweep, phase, policy } = step
  const title =
    sweep === 0 ? `${model.labels[state]}, before the first sweep` : `${model.labels[state]}, sweep ${sweep}`
  const formula = FORMULAS[phase]
  if (model.ending[state])
    return {
      title,
      formula,
      lines: [],
      note: 'Episodes end here: the value is 0 by definition, and never backed up.',
    }
  if (sweep === 0)
    return { title, formula, lines: [], note: 'Every value starts at 0. Take a sweep to see a backup.' }

  const used = usedValues(state, step)
  const rows = Array.from(
    { length: model.rowStart[state + 1] - model.rowStart[state] },
    (_, k) => model.rowStart[state] + k,
  )
  const backups = Float64Array.from(rows, (row) => backupRow(form, row, used))
  const best = greedyPolicy(Int32Array.of(0, rows.length), backups)
  const followed = phase === 'evaluate' && policy !== null
  const lines: WorkingLine[] = rows.map((row, k) => ({
    label: followed
      ? `${model.actions[model.rowAction[row]]}, taken with ${formatNumber(policy[row], 3)}`
      : model.actions[model.rowAction[row]],
    parts: rowParts(form, row, used, discount),
    strong: followed ? policy[row] > 0 : best[k] > 0,
  }))
  if (followed)
    lines.push({
      label: 'together',
      parts: [
        ...rows.flatMap((row, k) =>
          policy[row] > 0
            ? [
                ...(rows.slice(0, k).some((other) => policy[other] > 0) ? [say('+')] : []),
                num('probability', policy[row]),
                say('×'),
                num('result', backups[k]),
              ]
            : [],
        ),
        say('='),
        num('result', step.values[state]),
      ],
      strong: true,
    })
  return {
    title,
    formula,
    lines,
    note:
      phase === 'improve'
        ? 'The values stay; from here on the policy takes what is marked.'
        : step.rank
          ? 'The sweep is made in place: states before this one in the order count with their new value.'
          : undefined,
  }
}

/** The values that a backup of a state used: in place, those made earlier in the same sweep. */
function usedValues(state: number, { before, values, rank }: SweepStep): Float64Array {
  if (!rank) return before
  return before.map((value, s) => (rank[s] < rank[state] ? values[s] : value))
}

function rowParts(form: BackupForm, row: number, before: Float64Array, discount: number): Part[] {
  const { outcomeStart, outcomeState, outcomeProbability, outcomeReward } = form.model
  // Outcomes that differ in their reward only, as those of a bandit, are one term with the expected reward.
  const terms = new Map<number, { probability: number; reward: number }>()
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++) {
    const term = terms.get(outcomeState[o]) ?? { probability: 0, reward: 0 }
    const probability = term.probability + outcomeProbability[o]
    const share = outcomeProbability[o] / probability
    terms.set(outcomeState[o], {
      probability,
      reward: share === 1 ? outcomeReward[o] : term.reward + (outcomeReward[o] - term.reward) * share,
    })
  }
  const parts: Part[] = []
  for (const [next, { probability, reward }] of terms) {
    if (parts.length) parts.push(say('+'))
    parts.push(
      num('probability', probability),
      say('× ('),
      num('reward', reward),
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
