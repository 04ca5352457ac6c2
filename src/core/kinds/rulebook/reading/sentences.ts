import { parseRulebook } from '../parser'
import { listed, spanOf, type Span } from '../place'
import type { Domain, Levels, Rule, RuleOf } from '../syntax'
import { phrases, spoken, type Phrases } from './phrases'

/** A rule in plain English, and where it stands in the text. */
export interface Sentence extends Span {
  readonly rule: Rule['type']
  readonly text: string
}

/** A rulebook as sentences, in the order of its rules. Rules that cannot be read are left out. */
export function sentencesOf(text: string): Sentence[] {
  const { rules } = parseRulebook(text)
  const readings = readingsOf(
    phrases(new Set(rules.flatMap((rule) => (rule.type === 'table' ? [rule.name.text] : [])))),
  )
  return rules.map((rule) => ({
    ...spanOf(rule),
    rule: rule.type,
    text: `${(readings[rule.type] as (rule: Rule) => string)(rule)}.`,
  }))
}

/** How each rule is read. */
function readingsOf({ phrase, condition, drawn }: Phrases): {
  readonly [T in Rule['type']]: (rule: RuleOf<T>) => string
} {
  return {
    knob: ({ name, value, low, high }) =>
      `The knob ${spoken(name.text)} stands at ${phrase(value)} and goes from ${phrase(low)} to ${phrase(high)}`,
    table: ({ name, first, items, words }) =>
      `The table ${spoken(name.text)} has ${listed(
        items.map((item, i) => `${phrase(item)}${words ? ` for ${spoken(words[i].text)}` : ''}`),
      )}${words ? '' : `, counted from ${first ? phrase(first) : 1}`}`,
    state: ({ name, length, domain }) =>
      `The state tells ${spoken(name.text)}: ${length ? `a list of ${phrase(length)}, each ` : ''}${domainWords(domain)}`,
    start: ({ assignments, weight, scramble }) =>
      `An episode starts with ${listed(
        assignments.map((each) =>
          'value' in each
            ? `${spoken(each.name.text)} at ${phrase(each.value)}`
            : `${spoken(each.name.text)} drawn: ${drawn(each.distribution)}`,
        ),
      )}${weight ? `, with the weight ${phrase(weight)}` : ''}${scramble ? `, then ${phrase(scramble)} random actions are taken` : ''}`,
    action: ({ name, levels, parts, given, when }) => {
      const chosen = [
        ...(levels ? [levelWords(levels)] : []),
        ...parts.map((part) => `${spoken(part.name.text)} ${levelWords(part.levels)}`),
      ]
      const fixed = given.map((each) => `${spoken(each.name.text)} is ${phrase(each.value)} then`)
      return `One may choose ${spoken(name.text)}${chosen.length ? `, with ${listed(chosen)}` : ''}${fixed.length ? ` (${listed(fixed)})` : ''}${when ? `, where ${condition(when)}` : ''}`
    },
    chance: ({ name, length, distribution }) =>
      length
        ? `By chance each of the ${phrase(length)} items of ${spoken(name.text)} is ${drawn(distribution)}`
        : `By chance ${spoken(name.text)} is ${drawn(distribution)}`,
    let: ({ name, parameters, value }) =>
      `Let ${spoken(name.text)}${parameters ? ` of ${listed(parameters.map(({ text }) => spoken(text)))}` : ''} be ${phrase(value)}`,
    reward: ({ value, when }) => `${when ? `If ${condition(when)}, the` : 'The'} step pays ${phrase(value)}`,
    discount: ({ value, when }) =>
      `${when ? `If ${condition(when)}, what` : 'What'} follows the step counts times ${phrase(value)}`,
    next: ({ name, item, value, when }) => {
      const what = item
        ? phrase({
            type: 'item',
            of: { ...name, type: 'name', name: name.text },
            index: item,
            ...spanOf(name),
          })
        : spoken(name.text)
      return `${when ? `If ${condition(when)}, ${what} is then` : `Afterwards ${what} is`} ${phrase(value)}`
    },
    end: ({ at, condition: ends, reason }) =>
      `An episode ends ${at === 'when' ? 'where' : 'with a step in which'} ${condition(ends)}${reason ? ` (“${reason}”)` : ''}`,
    measure: ({ name, value }) =>
      `Counted beside the reward: ${spoken(name.text)}, which is ${phrase(value)}`,
    check: ({ title, condition: holds }) => `“${title}” means that always ${condition(holds)}`,
    policy: ({ title, choices }) =>
      `The policy “${title}” chooses ${choices
        .map(({ action, level, parts, when }) => {
          const what = [
            ...(level ? [phrase(level)] : []),
            ...parts.map((part) => `${spoken(part.name.text)} ${phrase(part.value)}`),
          ]
          return `${spoken(action.text)}${what.length ? ` ${listed(what)}` : ''}${when ? ` if ${condition(when)}` : ''}`
        })
        .join(', otherwise ')}`,
    observe: ({ items }) =>
      `The agent sees ${listed(items.map(({ value, name }) => (name ? `${phrase(value)}, called ${spoken(name.text)},` : phrase(value))))} and nothing else`,
    same: ({ names }) => `The items of ${listed(names.map(({ text }) => spoken(text)))} may be exchanged`,
    pass: ({ condition: passes, discount }) =>
      `Where ${condition(passes)} nothing is decided and time passes by itself${discount ? `, each step of it discounted by ${phrase(discount)}` : ''}`,
    impossible: ({ treatment, penalty }) =>
      `Impossible actions are ${treatment}${penalty ? ` by ${phrase(penalty)}` : ''}`,
  }

  function domainWords(domain: Domain): string {
    switch (domain.type) {
      case 'truth':
        return 'yes or no'
      case 'set':
        return `one of ${listed(domain.items.map(phrase))}`
      case 'range':
        return `a whole number from ${phrase(domain.from)} to ${phrase(domain.to)}`
      case 'buckets':
        return `a number from ${phrase(domain.from)} to ${phrase(domain.to)}, told in ${phrase(domain.count)} buckets`
    }
  }

  function levelWords(levels: Levels): string {
    if (levels.type === 'set') return `one of ${listed(levels.items.map(phrase))}`
    const { from, to, by, count } = levels
    return `a number from ${phrase(from)} to ${phrase(to)}${by ? ` in steps of ${phrase(by)}` : ''}${count ? ` in ${phrase(count)} levels` : ''}`
  }
}
