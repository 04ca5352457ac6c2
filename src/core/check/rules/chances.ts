import type { Happening } from '../../kinds/happening'
import { inspectionOf } from '../../kinds/inspections'
import { leftOut, NOTHING, verdict, type Found } from '../verdict'
import { LOOKED_AT, PASSING, TOO_MANY_ROWS, TOO_MANY_WAYS } from './ways'
import type { CheckRule } from './rule'

/** Rewards that differ by less are the same. */
const SAME = 1e-9

export const idleChance: CheckRule = {
  title: 'a chance whose outcomes never matter',
  severity: 'warning',
  proves: 'The outcome of each chance makes a difference in some state.',
  judge({ document, model, happenings, own }) {
    const names = inspectionOf(document).chanceNames(document)
    if (!names.length) return NOTHING
    if (model.rows > LOOKED_AT) return leftOut(TOO_MANY_ROWS)
    // Those that nothing reads are told already.
    const unread = own.flatMap(({ rule, about = [] }) => (rule === 'chance-not-read' ? about : []))
    const idle = new Set(names.keys())
    for (let row = 0; row < model.rows && idle.size; row++) {
      const ways = happenings(row)
      // Neither says anything of single chances.
      if (ways.some(({ next }) => next < 0)) return leftOut(PASSING)
      if (ways.some(({ drawn }) => drawn.length < names.length)) return leftOut(TOO_MANY_WAYS)
      for (const chance of idle) if (matters(ways, chance)) idle.delete(chance)
    }
    const found = [...idle].flatMap((chance): Found[] =>
      unread.includes(names[chance])
        ? []
        : [
            {
              where: names[chance],
              cause: `Every outcome of the chance ${names[chance]} has the same effect, in every state.`,
              remedy: 'Let something depend on it, or leave it out: it multiplies what is worked out.',
            },
          ],
    )
    return verdict(
      found,
      idle.size ? undefined : 'The outcome of each chance makes a difference in some state.',
    )
  },
}

/** Whether, with all else as it falls, another value of a chance leads elsewhere or pays otherwise. */
function matters(ways: readonly Happening[], chance: number): boolean {
  /** For each way of the others to fall: for each value of this one, how likely it leads where for what. */
  const falls = new Map<string, Map<string, Map<string, number>>>()
  for (const { drawn, next, parts, probability } of ways) {
    const others = drawn.filter((_, k) => k !== chance).join('\n')
    const pay = parts.reduce((sum, { amount }) => sum + amount, 0)
    const values = falls.get(others) ?? new Map<string, Map<string, number>>()
    falls.set(others, values)
    const results = values.get(drawn[chance]) ?? new Map<string, number>()
    values.set(drawn[chance], results)
    const result = `${next} ${Math.round(pay / SAME)}`
    results.set(result, (results.get(result) ?? 0) + probability)
  }
  return [...falls.values()].some((values) => {
    const [first, ...others] = values.values()
    return others.some((results) => !sameShares(first, results))
  })
}

/** Whether two tell the same, each as shares of its whole: between buckets one fall leads to several states. */
function sameShares(one: ReadonlyMap<string, number>, other: ReadonlyMap<string, number>): boolean {
  const whole = (of: ReadonlyMap<string, number>) => [...of.values()].reduce((sum, each) => sum + each, 0)
  const [all, rest] = [whole(one), whole(other)]
  return (
    one.size === other.size &&
    [...one].every(([result, chance]) => Math.abs(chance / all - (other.get(result) ?? -1) / rest) <= SAME)
  )
}
