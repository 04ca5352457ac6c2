import { ProblemError, type Problem } from '../../problem'
import { compileRules } from './compile-rules'
import { TEXT_LIMIT, type RulebookDocument } from './document'
import { parseRulebook } from './parser'
import { LineMap, type Fault } from './place'
import type { Program } from './program'

/** Faults told of at the most. */
const PROBLEM_LIMIT = 20

/** @throws ProblemError with every fault found, with line and column */
export function readRules(document: RulebookDocument): { program: Program; lines: LineMap } {
  const { text } = document
  const lines = new LineMap(text)
  if (text.length > TEXT_LIMIT)
    throw new ProblemError([
      lines.problem({
        from: TEXT_LIMIT,
        to: text.length,
        cause: `The rulebook has ${text.length} characters; ${TEXT_LIMIT} are read.`,
        remedy: 'Cut it down to what a class can read.',
      }),
    ])
  const { rules, faults: syntax, unread } = parseRulebook(text)
  const faults: Fault[] = [...syntax]
  const program = compileRules(rules, document.knobs, faults)
  if (!program || faults.length) {
    // What is said of a name follows from the rule that could not be read, where it may be declared there.
    const own = faults.filter(
      (fault) => syntax.includes(fault) || !unread.has(text.slice(fault.from, fault.to)),
    )
    throw new ProblemError(problemsOf(own, lines))
  }
  return { program, lines }
}

function problemsOf(faults: readonly Fault[], lines: LineMap): Problem[] {
  const sorted = [...faults].sort((x, y) => x.from - y.from)
  const known = new Set<string>()
  return sorted
    .map((fault) => lines.problem(fault))
    .filter(({ place, cause }) => {
      const key = `${place} ${cause}`
      return known.has(key) ? false : known.add(key)
    })
    .slice(0, PROBLEM_LIMIT)
}
