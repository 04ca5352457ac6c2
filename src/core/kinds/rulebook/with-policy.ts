import { refuse } from '../../problem'
import type { RulebookDocument } from './document'
import { parseRulebook } from './parser'

/** Characters of a policy at the most. */
const MOST = 5000

/**
 * A rulebook with one more policy.
 * @param text  a policy as rulebooks write it, and nothing else; what it is called there does not count
 * @throws ProblemError naming the line
 */
export function withPolicy(rulebook: RulebookDocument, title: string, text: string): RulebookDocument {
  if (text.length > MOST) refuse('the rule', `It has ${text.length} characters.`, `Write at most ${MOST}.`)
  const { rules, faults } = parseRulebook(text)
  const [fault] = faults
  if (fault)
    refuse(`the rule, line ${text.slice(0, fault.from).split('\n').length}`, fault.cause, fault.remedy)
  const [rule] = rules
  if (rules.length !== 1 || rule.type !== 'policy')
    refuse(
      'the rule',
      rules.length ? 'It is not one policy and nothing else.' : 'Nothing is written.',
      'Write one line: policy "mine": action when condition, another action.',
    )
  const written = text.slice(rule.from, rule.to).replace(/"[^"]*"/, `"${title}"`)
  return { ...rulebook, text: `${rulebook.text}\n${written}` }
}
