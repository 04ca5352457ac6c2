import { num, say, type Part, type Working, type WorkingLine } from '../explain/working'
import { formatCount, formatNumber } from '../formats/number'
import { listNames } from '../problem'
import { actionValues, backupRow, greedyPolicy, type BackupForm } from './backup'
import { entriesMade, lastPlaceOf, policyAt, tableAt, valuesAt } from './moment'
import type { Planner, PlanPhase } from './planner'
import { endlessAlone } from './proper'

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
/** The sum over next states in LaTeX; the commands \chance, \paid, \rate and \ahead give a term its role. */
const SUM = String.raw`\sum_{s'} \chance{p(s' \mid s, a)}\,\bigl(\paid{r} + \rate{\gamma}\,\ahead{V(s')}\bigr)`
const FORMULAS: Record<PlanPhase | 'table', { parts: readonly Part[]; latex: string }> = {
  optimise: {
    parts: [say('V(s) ←'), say('max over actions of Σ'), ...BACKUP],
    latex: String.raw`V(s) \leftarrow \max_a ${SUM}`,
  },
  evaluate: {
    parts: [say('V(s) ←'), say('Σ over actions of'), say('policy', 'probability'), say('× Σ'), ...BACKUP],
    latex: String.raw`V(s) \leftarrow \sum_a \chance{\pi(a \mid s)} ${SUM}`,
  },
  solve: {
    parts: [say('V(s) ='), say('Σ over actions of'), say('policy', 'probability'), say('× Σ'), ...BACKUP],
    latex: String.raw`V(s) = \sum_a \chance{\pi(a \mid s)} ${SUM}`,
  },
  improve: {
    parts: [say('policy(s) ←'), say('the actions with the largest Σ'), ...BACKUP],
    latex: String.raw`\pi(s) \leftarrow \operatorname*{arg\,max}_a ${SUM}`,
  },
  table: {
    parts: [say('Q(s, a) ←'), say('Σ'), ...BACKUP.slice(0, -2), say('largest Q(next)', 'next'), say(')')],
    latex: String.raw`Q(s, a) \leftarrow \sum_{s'} \chance{p(s' \mid s, a)}\,\bigl(\paid{r} + \rate{\gamma}\,\ahead{\max_{b} Q(s', b)}\bigr)`,
  },
}

/**
 * The last backup of a state written out: every action's outcomes, their sums, the best or the followed ones marked.
 * Where the sweep at hand has not come to the state (yet), what a backup would give now.
 * @param done  how many entries of the last sweep have been made; all when null
 */
export function backupWorking(planner: Planner, state: number, done: number | null = null): Working {
  const { model, form, sweeps, phase, inPlace, eliminates, table } = planner
  const followed = (phase === 'evaluate' || phase === 'solve') && planner.policy !== null
  const place = lastPlaceOf(planner, state, done)
  const { parts: formula, latex } = FORMULAS[table ? 'table' : phase]
  const head = {
    title:
      sweeps === 0
        ? `${model.labels[state]}, before the first sweep`
        : `${model.labels[state]}, sweep ${formatCount(sweeps)}`,
    formula,
    latex,
  }
  if (model.ending[state])
    return {
      ...head,
      lines: [],
      note: 'Episodes end here: the value is 0 by definition, and never backed up.',
    }
  if (Number.isNaN(planner.values[state]))
    return {
      ...head,
      lines: [],
      note: 'Under this policy no ending comes with certainty from here: undiscounted there is no finite value.',
    }
  if (sweeps === 0)
    return {
      ...head,
      lines: [],
      note: planner.values.every((value) => value === 0 || Number.isNaN(value))
        ? 'Every value starts at 0. Take a sweep to see a backup.'
        : `This value starts at ${formatNumber(planner.values[state], 3)}. Take a sweep to see a backup.`,
    }

  const used =
    phase === 'solve'
      ? planner.values
      : inPlace
        ? valuesAt(planner, place < 0 ? done : place)
        : planner.before
  const rows = Array.from(
    { length: model.rowStart[state + 1] - model.rowStart[state] },
    (_, k) => model.rowStart[state] + k,
  )
  const backups = Float64Array.from(rows, (row) =>
    eliminates ? backupWithoutStaying(form, state, row, used) : backupRow(form, row, used),
  )
  const best = greedyPolicy(Int32Array.of(0, rows.length), backups)
  const policy = followed ? policyAt(planner, done)! : null
  const lines: WorkingLine[] = rows.map((row, k) => ({
    label: policy
      ? `${model.actions[model.rowAction[row]]}, taken with ${formatNumber(policy[row], 3)}`
      : model.actions[model.rowAction[row]],
    parts: rowParts(form, row, used, backups[k], eliminates ? state : -1),
    strong: policy ? policy[row] > 0 : best[k] > 0,
  }))
  if (policy) lines.push(together(rows, policy, backups))
  return { ...head, lines, note: noteOf(planner, state, place, done) }
}

/** The actions of a state weighted by the policy. */
function together(rows: readonly number[], policy: Float64Array, backups: Float64Array): WorkingLine {
  let sum = 0
  rows.forEach((row, k) => (sum += policy[row] * backups[k]))
  return {
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
      num('result', sum),
    ],
    strong: true,
  }
}

function noteOf(planner: Planner, state: number, place: number, done: number | null): string | undefined {
  const made = entriesMade(planner, done)
  if (planner.phase === 'solve')
    return 'All values were found at once, so that each is the backup of the others; nothing is left to sweep.'
  if (place < 0) {
    const later = planner.sequence.subarray(made)
    const comes = planner.table ? -1 : later.indexOf(state)
    return comes >= 0
      ? `Not backed up yet in this sweep: ${comes} ${comes === 1 ? 'state comes' : 'states come'} first. This is what a backup would give now.`
      : 'Not backed up in this sweep. This is what a backup would give now.'
  }
  const idle = idleTies(planner, state, done)
  if (idle) return idle
  if (planner.phase === 'improve') return 'The values stay; from here on the policy takes what is marked.'
  if (planner.eliminates)
    return 'In place, and staying put is counted at once: where the state itself is a next state, its new value stands.'
  if (planner.logged)
    return 'This state was next because its value was furthest from its backup, as far as is known.'
  if (planner.inPlace)
    return 'The sweep is made in place: states before this one in the order count with their new value.'
  if (planner.table && tableAt(planner, done)) return 'Every line is one entry of the table.'
  return undefined
}

/** Undiscounted, a best action may lead round in a circle that costs nothing: as good as the others, and worth nothing alone. */
function idleTies(planner: Planner, state: number, done: number | null): string | undefined {
  const { model, form, status } = planner
  if (form.discount < 1 || status.outcome !== 'converged' || done !== null) return undefined
  const ties = greedyPolicy(model.rowStart, actionValues(form, planner.values))
  const own = ties.subarray(model.rowStart[state], model.rowStart[state + 1])
  if (own.filter((chance) => chance > 0).length < 2) return undefined
  const idle = endlessAlone(model, ties, state).map((row) => model.actions[model.rowAction[row]])
  return idle.length
    ? `Of the best actions, ${listNames(idle)} never ${idle.length > 1 ? 'end' : 'ends'} alone: taken here for ever, no ending comes. A policy has to take one of the others.`
    : undefined
}

/** v = (r + rest) / (1 - discount p): what a row is worth when it is taken until it leads away. */
function backupWithoutStaying(form: BackupForm, state: number, row: number, values: Float64Array): number {
  const { outcomeStart, outcomeState } = form.model
  let stays = 0
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++)
    if (outcomeState[o] === state) stays += form.weight[o]
  const whole = backupRow(form, row, values)
  return stays === 0 || stays > 1 - 1e-9 ? whole : (whole - stays * values[state]) / (1 - stays)
}

/** @param itself  a state whose own next value is the row's result, -1 for none */
function rowParts(form: BackupForm, row: number, used: Float64Array, result: number, itself: number): Part[] {
  const { outcomeStart, outcomeState, outcomeProbability, outcomeReward, outcomeDiscount } = form.model
  // Outcomes that differ in their reward only, as those of a bandit, are one term with the expected reward.
  const terms = new Map<number, { probability: number; reward: number; discount: number }>()
  for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++) {
    const term = terms.get(outcomeState[o]) ?? { probability: 0, reward: 0, discount: 0 }
    const probability = term.probability + outcomeProbability[o]
    const share = outcomeProbability[o] / probability
    const discount = form.discount * (outcomeDiscount?.[o] ?? 1)
    terms.set(outcomeState[o], {
      probability,
      discount: share === 1 ? discount : term.discount + (discount - term.discount) * share,
      reward: share === 1 ? outcomeReward[o] : term.reward + (outcomeReward[o] - term.reward) * share,
    })
  }
  const parts: Part[] = []
  for (const [next, { probability, reward, discount }] of terms) {
    if (parts.length) parts.push(say('+'))
    parts.push(
      num('probability', probability),
      say('× ('),
      num('reward', reward),
      say('+'),
      num('rate', discount),
      say('×'),
      num('next', next === itself ? result : used[next], next),
      say(')'),
    )
  }
  parts.push(say('='), num('result', result))
  return parts
}
