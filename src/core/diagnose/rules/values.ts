import { exponential } from '../../random/exponential'
import { formatCount, significantNumber } from '../../formats/number'
import { collapsedStates } from '../../learn/collapse'
import { observationOfRow } from '../../learn/world'
import { largestReturn } from '../../learn/tabular-learner'
import { constant, rateOfVisit, scheduleAt } from '../../learn/schedule'
import type { LearnChoice } from '../../settings/choice'
import type { DiagnosisContext } from '../context'
import type { Change } from '../finding'
import type { DiagnosisRule } from '../rule'
import { amount, counted, percent } from '../words'
import { letRateFall, setRate } from './changes'

/** Smaller learning rates, and that with which the method begins. */
function gentler({ choice, method }: DiagnosisContext): Change[] {
  const rate = choice.learningRate.from
  const changes = [0.5, 0.1, 0.01].filter((each) => each < rate).map(setRate)
  if (method.defaultLearningRate.from < rate)
    changes.push({
      words: 'Take the learning rate that the method begins with.',
      choice: { learningRate: method.defaultLearningRate },
    })
  return changes
}

/** Where and when a value first was larger than any return, as a full sentence; empty where none was seen. */
function beyondWords({ evidence: { beyond, learner }, world, model }: DiagnosisContext): string {
  if (!beyond) return ''
  const limit = largestReturn(learner.settings, world.rewardLimit)
  const state = world.someState(observationOfRow(world, beyond.cell))
  const cell = `${model.labels[state]}, “${model.actions[world.tableAction[beyond.cell]]}”,`
  return `The value of ${cell} was the first to leave what any return can be (${amount(limit)} in size), in step ${formatCount(beyond.step)} in episode ${formatCount(beyond.episode)}.`
}

export const diverged: DiagnosisRule = {
  title: 'values that diverged',
  looksAt: 'whether a number of the table has left all bounds that returns have',
  suspect(context) {
    const { learner } = context.evidence
    if (learner.status.outcome !== 'diverged') return null
    const { last, steps, log } = learner
    const where = last.state >= 0 ? context.model.labels[last.state] : ''
    const action = last.row >= 0 ? context.model.actions[context.world.tableAction[last.row]] : ''
    const ended = where
      ? `It was in ${where}, after “${action}”, in episode ${formatCount(log.count + 1)}.`
      : ''
    const began = learnsByTargets(context) ? beyondWords(context) : ''
    return {
      title: `The run diverged in step ${formatCount(steps)}.`,
      evidence: [learner.status.reason, ended, began].filter(Boolean).join(' '),
      proof: 'seen',
      states: last.state >= 0 ? [last.state] : [],
      changes: gentler(context),
      explains: Infinity,
    }
  },
}

/** Values that grow by less than this factor in the second half of a run may still come to rest. */
const GROWING = 1.05

export const diverging: DiagnosisRule = {
  title: 'values that are about to diverge',
  looksAt: 'whether values are larger than any return can be, and go on growing',
  suspect(context) {
    const { beyond, peaks, learner } = context.evidence
    if (learner.status.outcome === 'diverged' || !beyond || !learnsByTargets(context)) return null
    const limit = largestReturn(learner.settings, context.world.rewardLimit)
    // Over half of the run: from one episode to the next values also fall.
    const [before, last] = [peaks[(peaks.length - 1) >> 1], peaks.at(-1)]
    if (!last || last.value <= limit || last.value <= GROWING * before.value) return null
    return {
      title: `The values are about to diverge: the largest has grown to ${amount(last.value)}.`,
      evidence: `${beyondWords(context)} From episode ${formatCount(before.episode)} to episode ${formatCount(last.episode)} the largest value grew by a factor of ${significantNumber(last.value / before.value)}.`,
      proof: 'seen',
      picture: {
        title: 'largest value in size',
        bars: [
          ...peaks.map(({ episode, value }) => ({ label: `episode ${episode}`, value })),
          { label: 'any return', value: limit },
        ],
      },
      changes: gentler(context),
      explains: Infinity,
    }
  },
}

/** How much of its initial value a cell still has after so many updates, spread evenly over the run. */
function leftOver({ learningRate, episodes }: LearnChoice, updates: number): number {
  let sum = 0
  const parts = Math.min(updates, 400)
  for (let i = 0; i < parts; i++) {
    const at = ((i + 0.5) / parts) * updates
    const rate =
      learningRate.kind === 'visits'
        ? rateOfVisit(learningRate, 1 + at)
        : scheduleAt(learningRate, Math.floor((at / updates) * episodes))
    sum += (rate * updates) / parts
  }
  return exponential(-Math.min(700, sum))
}

/**
 * On the way of the best policy: how often values were updated, how much of what was there before is still in them, and how
 * much of what is at its end has come to its beginning.
 */
function learnedOfWay(context: DiagnosisContext, choice = context.choice) {
  const { way, evidence } = context
  const visits = way.map(({ tableRow }) => evidence.learner.visits[tableRow])
  const left = visits.map((count) => (count > 0 ? leftOver(choice, count) : 1))
  return { visits, left, arrived: left.reduce((product, each) => product * (1 - each), 1) }
}

/** Faster rates that may mend one that is too low. */
function faster(rate: number): Change[] {
  return [0.05, 0.1, 0.3, 0.5].filter((each) => each >= 3 * rate).map(setRate)
}

const BY_TARGETS = ['action values', 'values'] as const

function learnsByTargets({ method }: DiagnosisContext): boolean {
  return (BY_TARGETS as readonly string[]).includes(method.tableHolds)
}

export const rateTooLow: DiagnosisRule = {
  title: 'a learning rate that is too low',
  looksAt: 'how much of the initial values is still in the cells on the best way, by the updates they had',
  suspect(context) {
    const { choice, way } = context
    const { learningRate } = choice
    if (
      !learnsByTargets(context) ||
      !context.poor ||
      learningRate.kind !== 'constant' ||
      learningRate.from >= 0.3
    )
      return null
    const { visits, left, arrived } = learnedOfWay(context)
    if (!way.length || arrived > 0.7) return null
    const seen = visits.filter((count) => count > 0).length
    if (seen < way.length / 4) return null
    const worst = Math.max(...left)
    const typical = visits.toSorted((a, b) => a - b)[visits.length >> 1]
    return {
      title: `A learning rate of ${significantNumber(learningRate.from)} is too low for so few updates.`,
      evidence: `On the way of the best policy a cell was updated ${counted(Math.round(typical), 'time')} (the median): that leaves ${percent(leftOver(choice, typical))} of what it began with, in the worst cell ${percent(worst)}. To leave 5 % it takes ${counted(Math.ceil(3 / learningRate.from), 'update')}.`,
      proof: 'seen',
      states: way.filter((_, i) => left[i] > 0.2).map(({ state }) => state),
      picture: {
        title: 'updates of the cells along the best way',
        bars: way
          .slice(0, 12)
          .map(({ state }, i) => ({ label: context.model.labels[state], value: visits[i] })),
      },
      changes: faster(learningRate.from),
    }
  },
}

export const rateFallsTooFast: DiagnosisRule = {
  title: 'a learning rate that falls too fast',
  looksAt: 'the sum of the learning rates that the cells on the best way were updated with',
  suspect(context) {
    const { choice, way } = context
    const { learningRate } = choice
    if (!learnsByTargets(context) || !context.poor || learningRate.kind === 'constant') return null
    const last = learningRate.kind === 'visits' ? 0 : 'to' in learningRate ? learningRate.to : 0
    if (last >= learningRate.from) return null
    const { visits, left, arrived } = learnedOfWay(context)
    // Values that are means of all targets ever keep those of the beginning, when nothing was known yet.
    // Where nothing is looked ahead to, as in bandits, plain means are just right.
    const plainMeans =
      way.length > 2 && learningRate.kind === 'visits' && learningRate.slowness * learningRate.from < 10
    if (!way.length || (arrived > 0.7 && !plainMeans)) return null
    // Had it stayed what it was at first, it would have been enough.
    const steady = { ...choice, learningRate: constant(learningRate.from) }
    if (learnedOfWay(context, steady).arrived <= 0.7 && !plainMeans) return null
    const most = Math.max(...visits)
    return {
      title: 'The learning rate falls so fast that later experience hardly counts.',
      evidence: `${
        learningRate.kind === 'visits'
          ? `At update ${formatCount(Math.max(1, Math.round(most)))} of a cell the rate is ${significantNumber(rateOfVisit(learningRate, Math.max(1, most)))}`
          : `It falls from ${significantNumber(learningRate.from)} to ${significantNumber(last)}`
      }; on the way of the best policy up to ${percent(Math.max(...left))} of what a cell began with is still in it.${plainMeans ? ' Targets of the beginning, when nothing was known, weigh as much as the last ones.' : ''}`,
      proof: 'seen',
      states: way.filter((_, i) => left[i] > 0.2).map(({ state }) => state),
      changes: [setRate(0.1), setRate(0.3), letRateFall, setRate(0.5)],
    }
  },
}

/** Whether the targets of updates vary by chance: that of the environment, or that of exploring for who learns on-policy. */
function isNoisy({ chancy, choice, evidence }: DiagnosisContext): boolean {
  return chancy || (ON_POLICY.has(choice.method) && evidence.learner.level > 0)
}

/** Methods that learn what their own behaviour is worth, exploring included. */
export const ON_POLICY: ReadonlySet<string> = new Set([
  'sarsa',
  'expected-sarsa',
  'n-step-sarsa',
  'sarsa-lambda',
  'monte-carlo-control',
])

export const rateTooHigh: DiagnosisRule = {
  title: 'a learning rate that is too high for chance',
  looksAt: 'how far the last updates moved the values, against the gap between the best and the next action',
  suspect(context) {
    const { evidence, way, bestActionValues, model } = context
    if (!learnsByTargets(context) || !context.poor || !isNoisy(context) || !bestActionValues) return null
    const rate = evidence.learner.rate
    if (rate < 0.05) return null
    let [sum, count] = [0, 0]
    for (const { tableRow } of way) {
      sum += evidence.squares[tableRow] ?? 0
      count += evidence.changes[tableRow] ?? 0
    }
    if (count < 10) return null
    // Targets that spread by sigma move a value by rate x error, and let it swing by sigma x sqrt(rate / (2 - rate)).
    const moved = Math.sqrt(sum / count)
    const swing = moved / Math.sqrt(2)
    const gaps = way
      .map(({ state }) => gapOf(bestActionValues.subarray(model.rowStart[state], model.rowStart[state + 1])))
      .filter((gap) => gap > 0)
      .sort((a, b) => a - b)
    const gap = gaps[gaps.length >> 1] ?? 0
    if (swing < 0.25 * gap) return null
    return {
      title: `With a learning rate of ${significantNumber(rate)} the values never come to rest.`,
      evidence: `In the second half of the episodes an update on the best way moved a value by ${amount(moved)} (root of the mean square); the best action is better than the next by ${amount(gap)} (the median).`,
      proof: 'seen',
      states: way.map(({ state }) => state),
      picture: {
        title: 'value, in units of return',
        bars: [
          { label: 'one update moves', value: moved },
          { label: 'gap of actions', value: gap },
        ],
      },
      changes: [letRateFall, setRate(0.1), setRate(0.02)],
    }
  },
}

/** How much the best value is above the next one that differs; 0 where there is none. */
function gapOf(values: Float64Array): number {
  const sorted = values.toSorted().reverse()
  const next = sorted.find((value) => value < sorted[0] - 1e-9)
  return next === undefined ? 0 : sorted[0] - next
}

/** An action that is more likely than this leaves no episode to others, as long as runs are here. */
const CERTAIN = 0.99

export const collapsedPolicy: DiagnosisRule = {
  title: 'a policy that settled on one action too early',
  looksAt: 'states in which one action is nearly certain and another one is better',
  suspect(context) {
    const { method, world, learnedPolicy, model, optimum, choice } = context
    if (method.tableHolds !== 'preferences' || !context.poor || !optimum) return null
    const { collapsed, of } = collapsedStates(model, learnedPolicy, context.rowVisits, CERTAIN)
    const wrong = collapsed.filter((s) => {
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (learnedPolicy[r] > 0.5 && optimum.ties[r] === 0) return true
      return false
    })
    if (!wrong.length) return null
    const [first] = wrong
    const [from, end] = [model.rowStart[first], model.rowStart[first + 1]]
    let certain = 0
    let best = from
    for (let r = from; r < end; r++) {
      certain = Math.max(certain, learnedPolicy[r])
      if (optimum.ties[r] > 0) best = r
    }
    const tableRow = world.tableStart[model.observation[first]] + best - from
    const [left, began] = [context.gradient, context.firstGradient].map((gradient) => gradient?.[tableRow])
    const rate = choice.learningRate.from
    return {
      title: 'The policy settled on the wrong action before it had seen the better one.',
      evidence: `In ${wrong.length} of ${counted(of, 'visited state')} one action is nearly certain and not the best, first in ${model.labels[first]} with ${percent(certain)}, where “${model.actions[model.rowAction[best]]}” is the best. ${
        left === undefined
          ? `The gradient there is at most ${significantNumber(certain * (1 - certain), 2)} of an advantage, so that it stays.`
          : `The exact gradient of the preference for it is ${significantNumber(left, 2)} now${began === undefined ? '' : ` (${significantNumber(began, 2)} when the run began)`}, so that it stays.`
      }`,
      proof: 'seen',
      states: wrong,
      changes: [
        ...[5, 25, 100].map((times) => setRate(Number((rate / times).toPrecision(2)))),
        ...(method.settings.includes('entropy')
          ? [{ words: 'Reward entropy by 0.05, so that no action dies out.', choice: { entropy: 0.05 } }]
          : []),
      ],
    }
  },
}

export const maximisationBias: DiagnosisRule = {
  title: 'maximisation bias',
  looksAt: 'what the table says that the greedy policy is worth, against what it is worth exactly',
  suspect(context) {
    const { choice, evidence, learnedEpisodes, world, model, scale, chancy } = context
    if (choice.method !== 'q-learning' || !chancy || choice.start.kind === 'constant') return null
    const values = world.bestOfRows(evidence.learner.table)
    const said = model.startState.reduce((sum, s, i) => sum + model.startProbability[i] * values[s], 0)
    const bias = said - learnedEpisodes.value
    // Where values are still near what they began with, that is the reason.
    if (bias < 0.1 * scale || !context.poor || learnedOfWay(context).arrived < 0.9) return null
    return {
      title: 'The table promises more than its policy is worth: the maximum of noisy values is too high.',
      evidence: `At the start the table says ${amount(said)}; the exact value of its greedy policy is ${amount(learnedEpisodes.value)}. Q-learning takes the maximum of values that are still noisy, which is too high in the mean.`,
      proof: 'seen',
      states: model.startState,
      picture: {
        title: 'value of the start, in units of return',
        bars: [
          { label: 'by the table', value: said },
          { label: 'exactly', value: learnedEpisodes.value },
        ],
      },
      changes: [
        { words: 'Learn by Double Q-learning.', choice: { method: 'double-q-learning' } },
        letRateFall,
      ],
    }
  },
}
