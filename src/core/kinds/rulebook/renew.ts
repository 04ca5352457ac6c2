import { ProblemError } from '../../problem'
import type { RulebookDocument } from './document'
import type { CompiledRulebook, RuleNote } from './facts'
import { lex, type Statement, type Token } from './lexer'
import { RuleMachine } from './machine'
import { Offers } from './offers'
import { RuleFault, spanOf, type LineMap, type Span } from './place'
import type { NoteRule, Program } from './program'
import { readRules } from './read-rules'
import { WrittenPolicies } from './written-policies'

/** What these declare is worked out once, before any state: where no other rule reads it, it changes nothing. */
const WORKED_OUT_ONCE: ReadonlySet<string> = new Set(['knob', 'table'])
/** Notes that are found while states are worked out. */
const FOUND: readonly NoteRule[] = ['never-possible', 'never-ends', 'start-ends']

/**
 * What a changed rulebook is compiled to, without working its states out again: where the change is in comments, spaces,
 * policies, or in knobs and tables that only policies read. Model, space and measures are those of before, the very same
 * objects.
 *
 * @param before  the rulebook that `compiled` was made from
 * @returns null where the states may be others, or where something is wrong
 */
export function renewRulebook(
  before: RulebookDocument,
  compiled: CompiledRulebook,
  after: RulebookDocument,
): CompiledRulebook | null {
  const old = lex(before.text).statements
  const { statements, faults } = lex(after.text)
  const rules = modelRules(statements)
  if (faults.length || !sameTokens(modelRules(old), rules)) return null
  const turned = turnedKnobs(before, after)
  const read = namesIn(rules)
  if (turned.some((name) => read.has(name))) return null
  try {
    const { program, lines } = readRules(after)
    // Policies are the same too where only comments and spaces have changed.
    const alike = turned.length === 0 && sameTokens(old, statements)
    const move = alike ? spanMover(old, statements) : spanMover(modelRules(old), rules)
    const { facts } = compiled
    const kept = (among: readonly NoteRule[]) =>
      facts.notes.filter(({ rule }) => among.includes(rule)).map((note) => movedNote(note, move, lines))
    const { policies, notes } = alike
      ? { policies: compiled.policies, notes: kept(['policy']) }
      : choosePolicies(program, lines, compiled)
    return {
      ...compiled,
      policies,
      facts: {
        ...facts,
        knobs: program.knobs,
        checks: facts.checks.map((check, k) => ({ ...check, span: spanOf(program.checks[k]) })),
        notes: [
          ...program.notes.map((note) => ({ ...lines.problem(note), rule: note.rule, about: note.about })),
          ...kept(FOUND),
          ...notes,
        ],
      },
    }
  } catch (error) {
    // It is told in full when the rulebook is compiled as a whole.
    if (error instanceof ProblemError || error instanceof RuleFault) return null
    throw error
  }
}

/** The rules that states and rows depend on. */
function modelRules(statements: readonly Statement[]): Statement[] {
  const rules = statements.filter(({ tokens }) => tokens[0].text !== 'policy')
  const read = namesIn(rules.filter(({ tokens }) => !WORKED_OUT_ONCE.has(tokens[0].text)))
  for (;;) {
    const used = rules.filter(
      ({ tokens }) => !WORKED_OUT_ONCE.has(tokens[0].text) || read.has(tokens[1]?.text),
    )
    const known = read.size
    for (const name of namesIn(used)) read.add(name)
    if (read.size === known) return used
  }
}

function namesIn(statements: readonly Statement[]): Set<string> {
  return new Set(
    tokensOf(statements)
      .filter(({ kind }) => kind === 'name')
      .map(({ text }) => text),
  )
}

function tokensOf(statements: readonly Statement[]): Token[] {
  return statements.flatMap(({ tokens }) => tokens)
}

function sameTokens(one: readonly Statement[], other: readonly Statement[]): boolean {
  return (
    one.length === other.length &&
    one.every(({ tokens }, i) => {
      const others = other[i].tokens
      return (
        tokens.length === others.length &&
        tokens.every(({ kind, text }, k) => kind === others[k].kind && text === others[k].text)
      )
    })
  )
}

/** The knobs that do not stand where they stood. */
function turnedKnobs({ knobs: before }: RulebookDocument, { knobs: after }: RulebookDocument): string[] {
  const names = new Set([...Object.keys(before), ...Object.keys(after)])
  const settingOf = (knobs: RulebookDocument['knobs'], name: string) =>
    Object.hasOwn(knobs, name) ? knobs[name] : undefined
  return [...names].filter((name) => settingOf(before, name) !== settingOf(after, name))
}

/** Where a stretch of one text is in another one with the same tokens. */
function spanMover(from: readonly Statement[], to: readonly Statement[]): (span: Span) => Span {
  const [old, now] = [tokensOf(from), tokensOf(to)]
  return (span) => ({
    from: now[old.findIndex((token) => token.from >= span.from)].from,
    to: now[old.findLastIndex((token) => token.to <= span.to)].to,
  })
}

function movedNote(note: RuleNote, move: (span: Span) => Span, lines: LineMap): RuleNote {
  if (!note.span) return note
  const span = move(note.span)
  return { ...note, span, place: lines.place(span.from) }
}

/** What policies choose in the states of a model that is there already. @throws RuleFault */
function choosePolicies(
  program: Program,
  lines: LineMap,
  { model, space }: CompiledRulebook,
): ReturnType<WrittenPolicies['finish']> {
  const machine = new RuleMachine(program)
  const offers = new Offers(machine, program)
  const policies = new WrittenPolicies(program)
  const axes = space.axes.length
  for (let state = 0; state < model.states; state++) {
    if (model.ending[state]) {
      policies.pass()
      continue
    }
    machine.load(machine.codeOf((axis) => space.index[axes * state + axis]))
    policies.choose(state, machine.frame, offers.possible())
  }
  const order = Int32Array.from({ length: model.states }, (_, s) => s)
  return policies.finish(model, order, lines, (state) => model.labels[state])
}
