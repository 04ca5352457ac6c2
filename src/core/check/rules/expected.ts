import { drawnPolicy } from '../../evaluate/drawn-policy'
import type { DocumentCheck, DocumentCheckKind } from '../../environment/document-check'
import { formatCount } from '../../formats/number'
import { rowOf, startValue, type RowPolicy } from '../../model/model'
import { evaluatePolicy, randomPolicy } from '../../plan/evaluate'
import { followedPolicy } from '../../compare/followed'
import { ProblemError } from '../../problem'
import type { CheckContext } from '../context'
import { isRuleId } from '../rule-ids'
import { walkTo } from '../search'
import type { Walk } from '../walk'
import type { CheckRule } from './rule'
import { NOTHING, type Found } from '../verdict'

/** How an expectation stands: null where it holds, else why not, with the way where there is one. */
export type Failure = { readonly cause: string; readonly walk?: Walk } | null

interface Expectation<C extends DocumentCheck> {
  /** What is expected, as a full sentence. */
  say(check: C): string
  fails(check: C, context: CheckContext): Failure
}

/** Enough digits to see what a tolerance is about. */
const number = (value: number) => String(Number(value.toPrecision(8))).replace('-', '−')

/** Each kind of expectation. */
const EXPECTATIONS: {
  readonly [K in DocumentCheckKind]: Expectation<Extract<DocumentCheck, { kind: K }>>
} = {
  value: {
    say: ({ state, is, within }) =>
      `The best value of ${state ?? 'the start'} is ${number(is)} within ${number(within)}.`,
    fails({ state, is, within }, { model, optimum }) {
      if (!optimum) return { cause: 'There is no finite best value.' }
      const s = state === undefined ? -1 : model.labels.indexOf(state)
      if (state !== undefined && s < 0) return { cause: `There is no state “${state}”.` }
      const value = s < 0 ? optimum.start : optimum.values[s]
      return Math.abs(value - is) <= within + 1e-12 ? null : { cause: `It is ${number(value)}.` }
    },
  },
  reachable: {
    say: ({ state, expected }) => `An episode can ${expected ? '' : 'never '}come to ${state}.`,
    fails({ state, expected }, { model, search }) {
      const s = model.labels.indexOf(state)
      const isReached = s >= 0 && search.steps[s] >= 0
      if (isReached === expected) return null
      return isReached
        ? { cause: `It can, in ${formatCount(search.steps[s])} steps.`, walk: walkTo(model, search, s) }
        : { cause: s < 0 ? `There is no state “${state}” that comes up.` : 'It cannot.' }
    },
  },
  episode: {
    say: ({ start, steps, return: gain, within }) =>
      `${start === undefined ? 'From the start' : `From ${start}`} the steps ${steps
        .slice(0, 3)
        .map(({ action, to }) => (to === undefined ? action : `${action} to ${to}`))
        .join(
          ', ',
        )}${steps.length > 3 ? ` and ${steps.length - 3} more` : ''} have the return ${number(gain)} within ${number(within)}.`,
    fails: episodeFails,
  },
  better: {
    say: ({ policy, than, by }) =>
      `The policy “${policy}” is worth more than “${than}”${by ? `, by more than ${number(by)}` : ''}.`,
    fails({ policy, than, by }, context) {
      const values: number[] = []
      for (const name of [policy, than]) {
        const value = valueOf(name, context)
        if (typeof value === 'string') return { cause: value }
        values.push(value)
      }
      return values[0] - values[1] > by
        ? null
        : { cause: `They are worth ${number(values[0])} and ${number(values[1])}.` }
    },
  },
  rule: {
    say: ({ rule, expected }) =>
      `The rule “${rule}” ${expected === 'holds' ? 'finds nothing' : 'finds something'}.`,
    fails({ rule, expected }, context) {
      if (!isRuleId(rule)) return { cause: `There is no rule “${rule}”.` }
      const [found] = context.judge(rule).found
      if (expected === 'holds') return found ? { cause: found.cause, walk: found.walk ?? undefined } : null
      return found ? null : { cause: 'It finds nothing.' }
    },
  },
}

function episodeFails(
  { start, steps, return: expected, within }: Extract<DocumentCheck, { kind: 'episode' }>,
  { model, discount }: CheckContext,
): Failure {
  const { labels, actions, startState, outcomeStart, outcomeState, outcomeReward, outcomeDiscount } = model
  if (start === undefined && startState.length > 1)
    return { cause: `There are ${formatCount(startState.length)} starts: say which one.` }
  const begin = start === undefined ? startState[0] : labels.indexOf(start)
  if (begin < 0) return { cause: `There is no state “${start}”.` }
  const walk = { start: begin, outcomes: [] as number[] }
  let at = begin
  let [gain, weight] = [0, 1]
  for (const [i, { action, to, reward }] of steps.entries()) {
    const step = `Step ${formatCount(i + 1)}`
    const row = rowOf(model, at, actions.indexOf(action))
    if (row < 0) return { cause: `${step}: ${action} is not possible in ${labels[at]}.`, walk }
    const possible: number[] = []
    for (let o = outcomeStart[row]; o < outcomeStart[row + 1]; o++)
      if (
        (to === undefined || labels[outcomeState[o]] === to) &&
        (reward === undefined || near(outcomeReward[o], reward))
      )
        possible.push(o)
    if (!possible.length)
      return {
        cause: `${step}: ${action} in ${labels[at]} cannot lead${to === undefined ? '' : ` to ${to}`}${reward === undefined ? '' : ` for ${number(reward)}`}.`,
        walk,
      }
    const [outcome] = possible
    if (
      possible.some(
        (o) => outcomeState[o] !== outcomeState[outcome] || !near(outcomeReward[o], outcomeReward[outcome]),
      )
    )
      return {
        cause: `${step}: ${action} in ${labels[at]} can lead to different things: say to which.`,
        walk,
      }
    walk.outcomes.push(outcome)
    gain += weight * outcomeReward[outcome]
    weight *= discount * (outcomeDiscount?.[outcome] ?? 1)
    at = outcomeState[outcome]
  }
  return Math.abs(gain - expected) <= within + 1e-12
    ? null
    : { cause: `Their return is ${number(gain)}.`, walk }
}

function near(one: number, other: number): boolean {
  return Math.abs(one - other) <= 1e-9 * Math.max(1, Math.abs(other))
}

/** The exact value of the start under a policy by its name, or what is wrong with it. */
function valueOf(
  name: string,
  { document, compiled, model, discount, optimum }: CheckContext,
): number | string {
  if (name === 'optimum') return optimum?.start ?? 'There is no finite best value.'
  let policy: RowPolicy | null
  if (name === 'random') policy = randomPolicy(model)
  else if (name === 'drawn') policy = drawnPolicy(model, document.policy)
  else
    try {
      policy = followedPolicy(
        compiled,
        name.startsWith('always ')
          ? { kind: 'action', action: name.slice(7) }
          : { kind: 'written', title: name },
        discount,
      )
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      return error.problems.map(({ cause, remedy }) => `${cause} ${remedy}`).join(' ')
    }
  if (!policy) return `There is no policy “${name}”.`
  const { outcome, values } = evaluatePolicy(model, policy, discount)
  return outcome === 'solved'
    ? startValue(model, values)
    : `The policy “${name}” has no finite value from the start.`
}

/** What an author expects, as a full sentence. */
export function expectationText(check: DocumentCheck): string {
  return entryOf(check).say(check)
}

/** Why an expectation does not hold; null where it does. */
export function expectationFails(check: DocumentCheck, context: CheckContext): Failure {
  return entryOf(check).fails(check, context)
}

function entryOf<C extends DocumentCheck>(check: C): Expectation<C> {
  return EXPECTATIONS[check.kind] as unknown as Expectation<C>
}

export const expected: CheckRule = {
  title: 'what the author expects',
  severity: 'error',
  proves: 'Everything that the author expects holds.',
  tellsTruth: true,
  judge(context) {
    const checks = context.document.checks ?? []
    if (!checks.length) return NOTHING
    const found = checks.flatMap((check, i): Found[] => {
      const failure = expectationFails(check, context)
      if (!failure) return []
      return [
        {
          where: `expectation ${i + 1}`,
          cause: `${expectationText(check)} ${failure.cause}`,
          remedy: 'Change the environment, or what is expected of it.',
          walk: failure.walk,
        },
      ]
    })
    if (found.length) return { found }
    return {
      found,
      holds:
        checks.length === 1
          ? expectationText(checks[0])
          : `All ${formatCount(checks.length)} expectations of the author hold.`,
    }
  },
}
