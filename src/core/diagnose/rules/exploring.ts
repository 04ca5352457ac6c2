import { formatCount, significantNumber } from '../../formats/number'
import { scheduleAt, standsAfter } from '../../learn/schedule'
import { EXPLORATIONS } from '../../learn/explore/explorations'
import { logarithm } from '../../random/logarithm'
import { stateOfRow } from '../../model/model'
import type { DiagnosisContext } from '../context'
import type { DiagnosisRule } from '../rule'
import { amount, asBeginning, counted, percent } from '../words'
import { goalWords } from './structure'
import { exploreAt, fade, more, optimistic, settle } from './changes'
import { ON_POLICY } from './values'

function explores({ method }: DiagnosisContext): boolean {
  return method.settings.includes('exploration')
}

/** States on the way of the best policy whose best action was hardly tried, in the order of the way. */
function lostWay({ way, evidence }: DiagnosisContext, rarely = RARELY) {
  const visits = way.map(({ tableRow }) => evidence.learner.visits[tableRow])
  const first = visits.findIndex((count) => count < rarely)
  return { visits, first, states: way.filter((_, i) => visits[i] < rarely).map(({ state }) => state) }
}
/** Tries of an action that tell little of what it is worth. */
const RARELY = 10

/** What shows that the agent never got to know the best way. */
function lostSentence(context: DiagnosisContext): string {
  const { model, way, evidence, goal } = context
  const { first, visits } = lostWay(context)
  const never =
    goal && evidence.whole && evidence.goals === 0
      ? `No episode of the run came to ${goalWords(context)}. `
      : ''
  return first < 0
    ? never
    : `${never}On the way of the best policy “${model.actions[model.rowAction[way[first].row]]}” in ${model.labels[way[first].state]} was tried ${counted(visits[first], 'time')}.`
}

export const noExploration: DiagnosisRule = {
  title: 'no exploration at all',
  looksAt: 'whether anything makes the agent try what does not look best',
  suspect(context) {
    const { choice } = context
    if (!explores(context) || !context.poor || choice.exploration.way !== 'epsilon-greedy') return null
    const { level } = choice.exploration
    const most =
      level.kind === 'linear' || level.kind === 'exponential' ? Math.max(level.from, level.to) : level.from
    if (most > 0.001) return null
    const { states } = lostWay(context)
    return {
      title: 'The agent never explores: it only does what looks best already.',
      evidence:
        `The chance of a random action is ${significantNumber(most)} throughout. ${lostSentence(context)}`.trim(),
      proof: 'proved',
      states,
      changes: [exploreAt(0.1), settle(choice), optimistic(context)],
    }
  },
}

export const explorationTooShort: DiagnosisRule = {
  title: 'exploration that ends too early',
  looksAt: 'when exploration reached its floor, and when the first reward was seen',
  suspect(context) {
    const { choice, evidence, goal } = context
    if (!explores(context) || !context.poor) return null
    const { level, way } = choice.exploration
    const per = 'per' in level ? level.per : 'episode'
    const floor = scheduleAt(level, Infinity)
    const { first, states } = lostWay(context)
    if (first < 0 || way !== 'epsilon-greedy' || floor > 0.3) return null
    const standing = standsAfter(level)
    const falls = standing > 0 && level.from > floor
    const floorBefore =
      falls &&
      (per === 'episode'
        ? standing < (evidence.firstGoal?.episode ?? choice.episodes) || standing < choice.episodes / 10
        : standing < (evidence.firstGoal?.step ?? evidence.learner.steps))
    const title = falls
      ? `Exploration had reached its floor, ${significantNumber(floor)}, before the agent knew the way.`
      : `Exploring with ${significantNumber(floor)} is too little to find the way.`
    if (falls && !floorBefore) return null
    const seen = goal
      ? evidence.firstGoal
        ? ` ${asBeginning(goalWords(context))} was first reached in episode ${formatCount(evidence.firstGoal.episode)}.`
        : ''
      : ''
    return {
      title,
      evidence:
        `${falls ? `It falls from ${significantNumber(level.from)} to its floor within ${counted(standing + 1, per)} of ${per === 'episode' ? counted(choice.episodes, 'episode') : counted(evidence.learner.steps, 'step')}.` : `${EXPLORATIONS[way].title}, ${significantNumber(floor)} throughout.`}${seen} ${lostSentence(context)}`.trim(),
      proof: 'seen',
      states,
      changes: [settle(choice), exploreAt(0.1), exploreAt(0.3), optimistic(context)].filter(
        ({ choice: { exploration } }) => !exploration || scheduleAt(exploration.level, 0) > floor,
      ),
    }
  },
}

export const exploringCosts: DiagnosisRule = {
  title: 'exploration that is still high at the end',
  looksAt: 'how the agent acts at the end of the run against its greedy policy, exactly',
  suspect(context) {
    const { choice, learnedEpisodes, actingEpisodes, scale, evidence } = context
    if (!explores(context)) return null
    const cost = learnedEpisodes.value - actingEpisodes.value
    if (cost <= 0.05 * scale) return null
    const level = evidence.learner.level
    const from =
      choice.exploration.way === 'epsilon-greedy' ? Math.max(choice.exploration.level.from, 0.1) : 1
    return {
      title: `Exploring costs ${amount(cost)} an episode now.`,
      evidence: `Acting as it does at the end, with ${EXPLORATIONS[choice.exploration.way].title} at ${significantNumber(level)}, an episode is worth ${amount(actingEpisodes.value)}; the greedy policy of the same table ${amount(learnedEpisodes.value)}. Both are exact.`,
      proof: 'seen',
      picture: {
        title: 'value of an episode, in units of return',
        bars: [
          { label: 'exploring', value: actingEpisodes.value },
          { label: 'greedy', value: learnedEpisodes.value },
        ],
      },
      of: 'behaviour',
      changes: [fade(choice, from, 0.01)],
    }
  },
}

export const onPolicyCaution: DiagnosisRule = {
  title: 'an on-policy learner that keeps away from what is dangerous while exploring',
  looksAt: 'the best policy and the learned one, both with the exploration of the run',
  suspect(context) {
    const { choice, optimum, evidence, model, learnedEpisodes, actingEpisodes, bestEpisodes, scale } = context
    if (!ON_POLICY.has(choice.method) || !optimum || choice.exploration.way !== 'epsilon-greedy') return null
    const level = evidence.learner.level
    if (level <= 0.001) return null
    const exploring = optimum.policy.map((chance, r) => {
      const s = stateOfRow(model, r)
      return (1 - level) * chance + level / (model.rowStart[s + 1] - model.rowStart[s])
    })
    const daring = context.episodesUnder(exploring).value
    const less = bestEpisodes!.value - learnedEpisodes.value
    if (less <= 0.01 * scale || actingEpisodes.value < daring - 0.005 * scale) return null
    const parts = context.way.filter(({ row }) => context.learnedPolicy[row] < 0.5).map(({ state }) => state)
    return {
      title: 'It learned the best way for an agent that explores, not for one that does not.',
      evidence: `With exploration at ${significantNumber(level)} the optimal policy is worth ${amount(daring)}, what was learned ${amount(actingEpisodes.value)}; without exploring ${amount(bestEpisodes!.value)} and ${amount(learnedEpisodes.value)}. The difference is what exploring costs near danger, not a fault of learning.`,
      proof: 'seen',
      states: parts,
      changes: [
        {
          words: 'Learn by Q-learning, which values the policy that does not explore.',
          choice: { method: 'q-learning' },
        },
        fade(choice, Math.max(level, 0.1), 0),
      ],
    }
  },
}

export const neverReached: DiagnosisRule = {
  title: 'no reward in the whole run',
  looksAt:
    'whether an episode came to its goal, and with which chance it does for an agent that knows nothing yet',
  suspect(context) {
    const { choice, evidence, goal, firstEpisodes } = context
    if (!goal || evidence.goals > 0 || !evidence.whole || !context.poor) return null
    const chance = firstEpisodes.goalBy[choice.cap]
    // After so many episodes it was reached at least once with 95 %.
    const needed =
      chance > 0 ? Math.ceil(logarithm(0.05) / logarithm(Math.max(1e-300, 1 - chance))) : Infinity
    const times = needed / choice.episodes
    return {
      title: `Not one of ${counted(evidence.learner.log.count, 'episode')} came to ${goalWords(context)}.`,
      evidence:
        chance > 0
          ? `Before it has learned anything, an episode of this agent gets there with a probability of ${percent(chance)} (exact): to get there at least once with 95\u00a0% takes ${counted(needed, 'episode')}.`
          : 'Before it has learned anything, the way it acts never gets there.',
      proof: 'seen',
      states: context.way.slice(-1).map(({ state }) => state),
      changes: [
        ...(Number.isFinite(times) && times < 20 ? [more(choice, Math.max(2, Math.ceil(2 * times)))] : []),
        ...(explores(context) ? [settle(choice), optimistic(context)] : []),
        {
          words: `Let episodes take up to ${counted(4 * choice.cap, 'step')}.`,
          choice: { cap: 4 * choice.cap },
        },
      ],
    }
  },
}

export const offTheWay: DiagnosisRule = {
  title: 'states on the best way that were hardly visited',
  looksAt: 'how often each action along the way of the best policy was tried',
  suspect(context) {
    const { choice, way, model } = context
    if (!context.poor) return null
    const { first, visits, states } = lostWay(context)
    if (first < 0) return null
    return {
      title: `The best way is lost at ${model.labels[way[first].state]}: what is best there was hardly tried.`,
      evidence: `${lostSentence(context)} ${counted(states.length, 'state')} of ${way.length} on that way ${states.length === 1 ? 'is' : 'are'} like that.`,
      proof: 'seen',
      states,
      picture: {
        title: 'tries of the best action along the best way',
        bars: way.slice(0, 12).map(({ state }, i) => ({ label: model.labels[state], value: visits[i] })),
      },
      changes: [more(choice, 4), ...(explores(context) ? [settle(choice), optimistic(context)] : [])],
    }
  },
}

export const moreEpisodes: DiagnosisRule = {
  title: 'too few episodes',
  looksAt: 'whether the learned policy was still becoming better, and what more episodes bring',
  suspect(context) {
    const { choice, evidence, world, learnedEpisodes } = context
    if (!context.poor) return null
    const halfway = evidence.halfway && context.episodesUnder(world.toModelRows(evidence.halfway)).value
    const played = evidence.learner.log.count
    return {
      title: `${counted(played, 'episode')} are not enough.`,
      evidence:
        halfway === null
          ? `What was learned is worth ${amount(learnedEpisodes.value)}.`
          : `After half of the episodes the learned policy was worth ${amount(halfway)}, at the end ${amount(learnedEpisodes.value)}.`,
      proof: 'seen',
      changes: [
        // A run that is looked at on its way may only have to go on.
        ...(played < choice.episodes ? [more(choice, 1)] : []),
        ...[4, 16, 100, 400].map((times) => more(choice, times)),
      ],
    }
  },
}
