import { inspectionOf } from '../../kinds/inspections'
import type { Walk } from '../walk'
import { walkOfStory } from '../walk-steps'
import type { KindFinding, KindRule } from '../../kinds/inspection'
import type { CheckContext } from '../context'
import type { CheckRule } from './rule'
import { verdict, type Found } from '../verdict'

/** What the kind of the environment looks for by itself while its states are worked out. */
function ownRule(id: KindRule, rule: Omit<CheckRule, 'judge'>, holds?: string): CheckRule {
  return {
    ...rule,
    judge: (context) =>
      verdict(
        context.own.filter((each) => each.rule === id).map((each) => foundOf(each, context)),
        holds,
      ),
  }
}

function foundOf(own: KindFinding, { model }: CheckContext): Found {
  return {
    where: own.where,
    cause: own.cause,
    remedy: own.remedy,
    span: own.span,
    walk: own.breach ? walkTo(own, model) : null,
    cells: own.cells,
    states: own.breach ? model.labels.flatMap((label, s) => (label === own.breach!.state ? [s] : [])) : [],
  }
}

/** The way to a breach, with the step in which it happens. */
function walkTo({ path, breach }: KindFinding, model: CheckContext['model']): Walk | null {
  return walkOfStory(model, [...path, breach!])
}

export const brokenCheck: CheckRule = {
  title: 'a check of the rulebook',
  severity: 'error',
  proves: 'Every check that the rulebook writes down holds in every step that can happen.',
  judge(context) {
    const found = context.own.filter(({ rule }) => rule === 'check').map((each) => foundOf(each, context))
    const count = inspectionOf(context.document).ownChecks(context.compiled)
    if (found.length || !count) return { found }
    return { found, holds: count === 1 ? 'The check holds.' : `All ${count} checks hold.` }
  },
}

export const silentPolicy = ownRule('policy', {
  title: 'a written policy that says nothing somewhere',
  severity: 'warning',
  proves: 'Every written policy names a possible action for every state.',
})

export const nothingChanges = ownRule('nothing-changes', {
  title: 'rules under which nothing changes',
  severity: 'warning',
  proves: 'Some rule says what a variable will be.',
})

export const chanceNotRead = ownRule('chance-not-read', {
  title: 'a chance that nothing reads',
  severity: 'warning',
  proves: 'Every chance is read by some rule.',
})

export const unreachedEnding = ownRule('never-ends', {
  title: 'an ending that cannot be reached',
  severity: 'warning',
  proves: 'Every ending that is written down or drawn can be reached.',
})

export const startsAsEnding = ownRule('start-ends', {
  title: 'a start that is an ending',
  severity: 'warning',
  proves: 'No episode begins where it ends.',
})
