import type { DiagnosisContext } from '../context'
import type { DiagnosisRule } from '../rule'
import { amount, percent } from '../words'
import { more, optimistic } from './changes'

/** The share of the pairs of state and action that can be met, and were never tried. */
function untried({ world, evidence, search, model }: DiagnosisContext): { share: number; states: number[] } {
  const states: number[] = []
  let [rows, never] = [0, 0]
  for (let s = 0; s < model.states; s++) {
    if (search.steps[s] < 0) continue
    const from = world.tableStart[model.observation[s]]
    const count = model.rowStart[s + 1] - model.rowStart[s]
    let missing = 0
    for (let k = 0; k < count; k++) if (evidence.learner.visits[from + k] === 0) missing++
    rows += count
    never += missing
    if (missing) states.push(s)
  }
  return { share: rows ? never / rows : 0, states }
}

export const pessimisticStart: DiagnosisRule = {
  title: 'initial values that keep the agent from exploring',
  looksAt: 'the initial values against what episodes are worth, and what was never tried',
  suspect(context) {
    const { choice, method, evidence } = context
    const { start } = choice
    if (start.kind !== 'constant' || method.tableHolds !== 'action values' || !context.poor) return null
    const low = Math.min(context.learnedEpisodes.value, context.randomEpisodes.value)
    if (start.value >= low) return null
    const { share, states } = untried(context)
    if (share < 0.1) return null
    return {
      title: 'The initial values are so low that whatever is tried first looks best.',
      evidence: `Every cell begins at ${amount(start.value)}; even a random policy is worth ${amount(context.randomEpisodes.value)}. ${percent(share)} of the pairs of state and action were never tried${evidence.goals === 0 && context.goal ? ', and no ending that pays was reached' : ''}.`,
      proof: 'seen',
      states,
      changes: [{ words: 'Begin with zeros.', choice: { start: { kind: 'zero' } } }, optimistic(context)],
    }
  },
}

export const optimisticStart: DiagnosisRule = {
  title: 'initial values that are still in the table',
  looksAt: 'values at the end of the run that are higher than anything can be worth',
  suspect(context) {
    const { choice, method, evidence, optimum, model, world } = context
    const { start } = choice
    if (start.kind !== 'constant' || method.tableHolds !== 'action values' || !optimum || !context.poor)
      return null
    if (start.value <= optimum.start) return null
    const { table, visits } = evidence.learner
    const states: number[] = []
    let [known, high] = [0, 0]
    for (let s = 0; s < model.states; s++)
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
        const row = world.tableStart[model.observation[s]] + r - model.rowStart[s]
        if (visits[row] === 0) continue
        known++
        if (table[row] <= optimum.values[s] + 0.1 * context.scale) continue
        high++
        if (states.at(-1) !== s) states.push(s)
      }
    if (known === 0 || high / known < 0.3) return null
    return {
      title: 'The optimistic initial values have not worn off yet.',
      evidence: `Every cell begins at ${amount(start.value)}, and nothing is worth more than ${amount(Math.max(...optimum.values))}. At the end ${percent(high / known)} of the cells that were tried are still higher than they can be worth, so that the agent goes on trying them.`,
      proof: 'seen',
      states,
      changes: [
        { words: 'Begin with zeros.', choice: { start: { kind: 'zero' } } },
        optimistic(context),
        more(choice, 4),
      ],
    }
  },
}

export const firstOfTies: DiagnosisRule = {
  title: 'ties broken by the first action',
  looksAt: 'how ties are broken while all values are equal, and what the first episode did',
  suspect(context) {
    const { choice, evidence, method, goal, firstEpisodes } = context
    if (choice.ties !== 'first' || !method.settings.includes('ties') || !context.poor) return null
    if (evidence.sameAction < 0.6 && evidence.goals > 0) return null
    const chance = firstEpisodes.goalBy[choice.cap]
    const random = context.randomEpisodes.goalBy[choice.cap]
    return {
      title: 'While all values are equal the agent always takes the first action.',
      evidence: `In the first episode ${percent(evidence.sameAction)} of the steps were the same action${evidence.firstCutOff ? ', until the step limit' : ''}.${
        goal
          ? ` Acting like that, an episode comes to its goal with a chance of ${percent(chance)}; with ties broken at random, of ${percent(random)}.`
          : ''
      }`,
      proof: 'seen',
      changes: [{ words: 'Break ties at random.', choice: { ties: 'random' } }],
    }
  },
}
