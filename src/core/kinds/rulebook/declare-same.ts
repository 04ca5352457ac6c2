import { spanOf } from './place'
import type { SameItems } from './program'
import type { RuleContext } from './rule-context'
import type { RuleOf } from './syntax'
import type { Variable } from './variables'

export function sameRule(ctx: RuleContext, rule: RuleOf<'same'>): void {
  let length: number | undefined
  for (const name of rule.names) {
    const variable = ctx.variables.get(name.text)
    const other = [...ctx.sameLists.flatMap(({ names }) => names), ...rule.names].find(
      (each) => each.text === name.text,
    )
    if (!variable) {
      ctx.unknownVariable(name)
      return
    }
    if (!variable.isList || variable.dimensions.length !== (length ?? variable.dimensions.length)) {
      ctx.expressions.fault(
        name,
        variable.isList
          ? `${name.text} has ${variable.dimensions.length} items, ${rule.names[0].text} has ${length}.`
          : `${name.text} is no list.`,
        'Name lists of one length, an item of each for every thing: same at, load.',
      )
      return
    }
    if (other !== name) {
      ctx.expressions.fault(name, `${name.text} is named in a “same” line already.`, 'Leave one out.')
      return
    }
    length = variable.dimensions.length
  }
  ctx.sameLists.push(rule)
}

/** Where the items of the lists are among all dimensions. */
export function sameItems(rule: RuleOf<'same'>, variables: readonly Variable[]): SameItems {
  const first = new Map<string, number>()
  let dimensions = 0
  for (const variable of variables) {
    first.set(variable.name, dimensions)
    dimensions += variable.dimensions.length
  }
  const names = rule.names.map(({ text }) => text)
  const { length } = variables.find(({ name }) => name === names[0])!.dimensions
  return {
    ...spanOf(rule),
    names,
    items: Array.from({ length }, (_, i) => names.map((name) => first.get(name)! + i)),
  }
}
