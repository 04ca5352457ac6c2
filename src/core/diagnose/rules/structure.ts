import { significantNumber } from '../../formats/number'
import { listNames } from '../../problem'
import { POOR, type DiagnosisContext } from '../context'
import { stepsUntil } from '../../evaluate/exact-episodes'
import { randomPolicy } from '../../plan/evaluate'
import type { Finding } from '../../check/finding'
import type { CheckRuleId } from '../../check/rule-ids'
import type { DiagnosisRule, Suspicion } from '../rule'
import { amount, asBeginning, counted, percent } from '../words'

/** What the agent is after, in words. */
export function goalWords({ model, goal }: DiagnosisContext): string {
  const paying = goal?.some((is, o) => is && model.outcomeReward[o] > 0)
  return paying ? 'an ending that pays' : 'the ending'
}

export const unreachable: DiagnosisRule = {
  title: 'an ending that cannot be reached',
  looksAt: 'which states an episode can come to at all',
  suspect(context) {
    const { shortest, search } = context
    // What Check proves: nothing ends, or an ending that is drawn or written is left out.
    const [trap] = context.checked('trap').filter(({ severity }) => severity === 'error')
    if (!trap || shortest >= 0) return null
    const lost = [...context.checked('never-ends'), ...context.checked('unreached')]
    const cause = [...lost, trap].map((each) => each.cause).join(' ')
    const reached = search.steps.reduce((sum, steps) => sum + (steps >= 0 ? 1 : 0), 0)
    return {
      title: 'What the agent is to reach cannot be reached.',
      evidence: `Of all ${counted(reached, 'state')} that an episode can come to, none leads to an ending. ${cause}`,
      proof: 'proved',
      states: trap.states,
      advice: 'Let something lead there, in Build. No setting of learning helps.',
      explains: Infinity,
    }
  },
}

/** A share of the episodes of the best policy that the step limit should leave alone. */
const ENOUGH = 0.95

export const capTooShort: DiagnosisRule = {
  title: 'a step limit that is too short',
  looksAt: 'how many steps the shortest way and the episodes of the optimal policy take',
  suspect(context) {
    const { choice, shortest, optimum, goal } = context
    if (shortest < 0 || !optimum || !goal) return null
    // Long enough to see how many steps the best policy needs.
    const far = Math.min(20_000, Math.max(1000, 20 * choice.cap, 20 * shortest))
    const long = context.episodesUnder(optimum.policy, { discount: choice.discount, cap: far })
    const needed = stepsUntil(long.goalBy, ENOUGH)
    const now = long.goalBy[Math.min(choice.cap, far)]
    const all = long.goalBy[far]
    if (all < 0.01 || now >= ENOUGH * all) return null
    const wanted = Math.max(stepsUntil(long.goalBy, 0.99), shortest) * 4
    const short = choice.cap < shortest
    return {
      title: short
        ? `Episodes are cut off after ${counted(choice.cap, 'step')}; the shortest way takes ${shortest}.`
        : `Episodes are cut off after ${counted(choice.cap, 'step')}, too soon for the best policy.`,
      evidence: short
        ? `No episode can come to ${goalWords(context)} before it is cut off. The optimal policy needs ${counted(needed, 'step')} in ${percent(ENOUGH)} of its episodes.`
        : `Within the step limit even the optimal policy comes to ${goalWords(context)} in ${percent(now)} of its episodes, later in ${percent(all)}; it needs ${counted(needed, 'step')} for ${percent(ENOUGH)} of those.`,
      proof: 'proved',
      states: context.way.map(({ state }) => state),
      picture: {
        title: `share of the episodes of the optimal policy that have come to ${goalWords(context)}`,
        bars: [0.5, 1, 2, 4]
          .map((times) => Math.max(1, Math.round(times * needed)))
          .concat(choice.cap)
          .sort((a, b) => a - b)
          .filter((steps, i, all) => steps !== all[i - 1] && steps <= far)
          .map((steps) => ({
            label: steps === choice.cap ? `${steps} steps (limit)` : `${steps} steps`,
            value: long.goalBy[steps],
          })),
      },
      changes: [{ words: `Let episodes take up to ${counted(wanted, 'step')}.`, choice: { cap: wanted } }],
    }
  },
}

/** Discounts that are tried for a far reward, from near to far. */
const FARTHEST = 0.9999
const TRIES = 24
/** What the best policy may lack to far sight before its discount counts as too low. */
const SHORT_SIGHTED = 0.2

/** Whether a step pays more than nothing that is none into the goal. */
function paysOnTheWay({ model, goal }: DiagnosisContext): boolean {
  return model.outcomeReward.some((reward, o) => reward > 0 && !goal?.[o])
}

export const discountTooLow: DiagnosisRule = {
  title: 'a discount that is too low',
  looksAt:
    'what the best policy goes for at this discount and at higher ones, and what the reward is worth at the start',
  suspect(context) {
    const { choice, shortest, optimum, goal } = context
    if (!optimum || shortest < 0 || !goal || choice.discount >= 0.995) return null
    const farthest = context.optimumAt(FARTHEST)
    if (!farthest) return null
    const sight = { discount: FARTHEST, cap: choice.cap }
    const [far, random] = [farthest.policy, randomPolicy(context.model)].map((policy) =>
      context.episodesUnder(policy, sight),
    )
    /** The part of what far sight gains over a random policy that the best policy at a discount lacks. */
    const lacks = (discount: number) => {
      const best = context.optimumAt(discount)
      const value = best ? context.episodesUnder(best.policy, sight).value : -Infinity
      return (far.value - value) / Math.max(1e-9, Math.abs(far.value - random.value))
    }
    // Where there is nothing to be had on the way, all depends on what is left of the reward at its end.
    const faint = choice.discount ** shortest < 0.01 && !paysOnTheWay(context)
    const turned = lacks(choice.discount) > SHORT_SIGHTED
    if (!turned && !(faint && context.poor)) return null
    // The least discount at which the best policy goes there.
    let [low, high] = [choice.discount, FARTHEST]
    if (turned)
      for (let i = 0; i < TRIES && high - low > 1e-4; i++) {
        const middle = (low + high) / 2
        if (lacks(middle) <= SHORT_SIGHTED) high = middle
        else low = middle
      }
    const least = turned ? high : 0.01 ** (1 / shortest)
    const wanted = Math.min(0.9999, Number((1 - (1 - least) / 2).toFixed(4)))
    const here = context.episodesUnder(optimum.policy, sight)
    const median = Math.max(1, stepsUntil(far.endedBy, 0.5))
    return {
      title: turned
        ? `With a discount of ${significantNumber(choice.discount)} a distant reward is not worth going for.`
        : `With a discount of ${significantNumber(choice.discount)} the reward is hardly worth anything at the start.`,
      evidence: turned
        ? `The policy that is optimal at a discount of ${FARTHEST} takes ${counted(median, 'step')} (median); with the discount of this run a reward there counts ${significantNumber(choice.discount ** (median - 1), 2)} times as much at the start. At a discount of ${FARTHEST} that policy is worth ${amount(far.value)}, the one that is optimal in this run ${amount(here.value)}. From a discount of ${significantNumber(least, 4)} on the optimal policy goes for the distant reward.`
        : `${asBeginning(goalWords(context))} is ${counted(shortest, 'step')} away at the least: a reward there counts ${significantNumber(choice.discount ** (shortest - 1), 2)} times as much at the start.`,
      proof: 'proved',
      states: context.way.slice(0, 1).map(({ state }) => state),
      changes: [
        { words: `Set the discount to ${significantNumber(wanted, 4)}.`, choice: { discount: wanted } },
      ],
      discount: wanted,
      explains: far.value - here.value,
    }
  },
}

/** What Check found of an environment, told as a reason. */
function fromCheck(
  finding: Finding,
  title: string,
  explains: number,
  rest: Partial<Suspicion> = {},
): Suspicion {
  return {
    title,
    evidence: finding.cause,
    proof: 'proved',
    states: finding.states,
    advice: finding.remedy,
    explains,
    ...rest,
  }
}

export const circleThatPays: DiagnosisRule = {
  title: 'a bonus worth circling for',
  looksAt: 'whether the optimal policy goes round for ever where it could end',
  suspect(context) {
    const [loop] = context.checked('reward-loop')
    if (!loop) return null
    const { learnedEpisodes, choice, goal } = context
    const ends = learnedEpisodes.goalBy[choice.cap]
    if (!goal || ends > 0.5) return null
    return fromCheck(loop, 'Going round in a circle pays more than coming to an end.', context.scale, {
      evidence: `${loop.cause} What was learned comes to ${goalWords(context)} in ${percent(ends)} of its episodes.`,
    })
  },
}

export const lookAlikes: DiagnosisRule = {
  title: 'states that look alike and want different actions',
  looksAt: 'what the agent sees, and the best action in each state',
  suspect(context) {
    const { blindness, scale } = context
    const [finding] = context.checked('look-alikes')
    if (!finding || blindness <= POOR * scale) return null
    const { method } = context
    const stochastic = method.tableHolds === 'preferences'
    return fromCheck(finding, 'States that look alike to the agent want different actions.', blindness, {
      changes: stochastic
        ? []
        : [
            {
              words: 'Learn a policy that mixes actions, by REINFORCE: a stochastic one can be better here.',
              choice: {
                method: 'reinforce',
                learningRate: { kind: 'constant', from: 0.05 },
                episodes: Math.max(5000, context.choice.episodes),
              },
            },
          ],
    })
  },
}

export const bonusThatBends: DiagnosisRule = {
  title: 'bonuses that bend the best policy',
  looksAt: 'the best policy with bonuses and without',
  suspect(context) {
    const bent = context.bent
    if (!bent) return null
    return {
      title: 'The bonuses make another policy the best one.',
      evidence: `Where bonuses pay nothing, the policy that is best with them is worth ${amount(bent.here)} at the start, the best one ${amount(bent.best)}. They part in ${listNames(bent.states.slice(0, 3).map((s) => context.model.labels[s]))}.`,
      proof: 'proved',
      states: bent.states,
      advice:
        'Let the bonus pay once, or as a potential (What if, in Plan), which cannot change the best policy.',
      explains: bent.best - bent.here,
    }
  },
}

export const clampedActions: DiagnosisRule = {
  title: 'impossible actions that are carried out as others',
  looksAt: 'whether the action carried out is the one that was chosen',
  suspect(context) {
    const [finding] = context.checked('carried-out')
    const [same] = context.checked('same-actions')
    if (!finding || !context.poor) return null
    const { world, evidence, chanceOfOther, model } = context
    // Counted by what the agent sees: of states that look alike the first one stands for all.
    const rowsSeen = new Map<number, { visits: number; chance: number; state: number }>()
    for (let s = 0; s < model.states; s++)
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
        const row = world.tableStart[model.observation[s]] + r - model.rowStart[s]
        if (!rowsSeen.has(row))
          rowsSeen.set(row, { visits: evidence.learner.visits[row], chance: chanceOfOther[r], state: s })
      }
    const rows = [...rowsSeen.values()].filter(({ visits }) => visits > 0)
    const steps = rows.reduce((sum, { visits }) => sum + visits, 0)
    const other = rows.reduce((sum, { visits, chance }) => sum + visits * chance, 0)
    return fromCheck(finding, 'Some actions are carried out as other ones.', 0, {
      evidence: [
        `In this run ${percent(other / Math.max(1, steps))} of ${counted(steps, 'step')} were carried out as another action than the one chosen.`,
        finding.cause,
        ...(same ? [same.cause] : []),
      ].join(' '),
      states: [...new Set(rows.filter(({ chance }) => chance > 0).map(({ state }) => state))],
    })
  },
}

/** Warnings of Check that can keep an agent from learning, and that no rule here tells itself. */
const MATTERS = new Set<CheckRuleId>(['trap', 'never-ends', 'step-limit', 'no-action'])

export const environmentFindings: DiagnosisRule = {
  title: 'findings of Check',
  looksAt: 'what Check says of the environment',
  suspect({ check, poor }) {
    const grave = check.findings.filter(
      ({ severity, rule }) => severity === 'error' || (poor && severity === 'warning' && MATTERS.has(rule)),
    )
    if (!grave.length) return null
    const [first] = grave
    return fromCheck(
      first,
      grave.length === 1
        ? 'Check has a finding that matters here.'
        : `Check has ${grave.length} findings that matter here.`,
      0,
      { advice: `${first.remedy} Look at Check.`.trim() },
    )
  },
}
