import { refuse } from '../../../problem'
import type { StateSpace } from '../../../model/space'
import type { Model } from '../../../model/model'
import type { RulebookDocument } from '../document'
import { parseRulebook } from '../parser'
import type { Choice, Program } from '../program'
import { readRules } from '../read-rules'
import type { Expression, Rule, RuleOf } from '../syntax'
import { valueAt, type Dimension } from '../variables'
import { readBy } from '../mentions'
import { BodyWriter } from './body-writer'
import { nextName, pythonName, PythonWriter, quoted } from './python-expression'
import { RUNTIME } from './runtime'

/** Python nests at most twenty blocks; some are needed besides the chances. */
const MOST_CHANCES = 16
/** Starts that are written down at the most. */
const MOST_STARTS = 5000

/**
 * A rulebook as a Python module, which needs numpy alone: `outcomes(state, action)` lists what an action can lead to, with the
 * probability, the reward and the discount of each.
 * @throws ProblemError where Python could not hold it
 */
export function writePython(
  name: string,
  document: RulebookDocument,
  { model, space }: { readonly model: Model; readonly space: StateSpace },
): string {
  const { rules } = parseRulebook(document.text)
  const { program } = readRules(document)
  if (program.chances.length > MOST_CHANCES)
    refuse(
      'export',
      `The rulebook has ${program.chances.length} chances, and Python nests at most ${MOST_CHANCES}.`,
      'Join some of them, or take its list of transitions.',
    )
  if (model.startState.length > MOST_STARTS)
    refuse(
      'export',
      `There are ${model.startState.length} starts, and ${MOST_STARTS} are written down.`,
      'Take its list of transitions.',
    )
  return new ModuleWriter(name, rules, program).module(startsOf(model, space))
}

/** What each variable is at the starts, by the numbers of the values. */
function startsOf({ startState, startProbability }: Model, { axes, index }: StateSpace): string[] {
  return Array.from(startState, (state, i) => {
    const numbers = Array.from(index.subarray(state * axes.length, (state + 1) * axes.length))
    return `(${startProbability[i]}, _named((${numbers.join(', ')},)))`
  })
}

/** What is done in place of an impossible action. */
const NEAREST = `


def _nearest(choice, possible):
    action, parts = ACTIONS[choice]

    def distance(other):
        return sum(
            abs(x - y) if not isinstance(x, str) else 0 if x == y else math.inf
            for x, y in zip(parts.values(), ACTIONS[other][1].values())
        )

    same = [other for other in possible if ACTIONS[other][0] == action and distance(other) < math.inf]
    return min(same, key=distance) if same else possible[0]`

class ModuleWriter {
  private readonly scope = {
    values: new Set<string>(),
    functions: new Set<string>(),
    actions: new Set<string>(),
  }
  private readonly writer = new PythonWriter(this.scope)
  /** Names that are known only when an action is taken, and variables whose next value is. */
  private readonly inStep = new Set(['action'])
  private readonly nextsInStep = new Set<string>()

  constructor(
    private readonly name: string,
    private readonly rules: readonly Rule[],
    private readonly program: Program,
  ) {
    for (const rule of rules) this.learn(rule)
  }

  module(starts: readonly string[]): string {
    const { program, name } = this
    const list = (items: readonly string[]) => `[\n${items.map((item) => `    ${item},\n`).join('')}]`
    return `"""${name.replaceAll('\\', '').replaceAll('"', "'")}: a rulebook as a Python module. It needs numpy for model(), and nothing else.

outcomes(state, choice)  what a choice can lead to: a list of (probability, reward, discount, next state).
                         What follows counts times that discount, besides the discount of the environment
                         (but for time that passes by itself, which that does not discount).
actions(state)           the choices that are offered, by their names in ACTIONS
ends(state)              whether an episode ends in a state
passes(state)            whether time passes by itself there: then outcomes(state, None) is what happens
STARTS                   a list of (probability, state)
model()                  all states that can be reached, with numpy arrays of their actions and outcomes

A state is a tuple: ${program.variables.map((each) => each.name).join(', ')}. An ending after a step is a text.
"""

import math


${RUNTIME}

_VARIABLES = ${list(program.variables.map((variable) => `(${quoted(variable.name)}, ${variable.isList ? variable.dimensions.length : 0}, ${this.domain(variable.dimensions[0])})`))}

_SAME = ${JSON.stringify(program.same.map(({ items }) => items))}

${this.constants().join('\n')}

ACTIONS = {
${program.choices.map((choice) => `    ${quoted(choice.label)}: (${quoted(program.groups[choice.group])}, {${this.parts(choice).join(', ')}}),`).join('\n')}
}

STARTS = ${list(starts)}


${[this.ends(), this.passes(), this.possible(), this.outcomes()].join('\n\n\n')}
`
  }

  /** Notes what a rule gives a meaning, and whether that needs a step. */
  private learn(rule: Rule): void {
    const { values, functions, actions } = this.scope
    const { names, nexts } = readBy(rule)
    const bound =
      [...names].some((each) => this.inStep.has(each)) ||
      [...nexts].some((each) => this.nextsInStep.has(each))
    const give = (name: string, step: boolean) => {
      values.add(name)
      if (step) this.inStep.add(name)
    }
    switch (rule.type) {
      case 'knob':
      case 'table':
      case 'state':
        return give(rule.name.text, false)
      case 'chance':
        return give(rule.name.text, true)
      case 'let':
        if (!rule.parameters) return give(rule.name.text, bound)
        functions.add(rule.name.text)
        if (bound) this.inStep.add(rule.name.text)
        return
      case 'measure':
        return give(rule.name.text, bound)
      case 'action':
        actions.add(rule.name.text)
        if (rule.levels) give(rule.name.text, true)
        for (const part of rule.parts) give(part.name.text, true)
        return
      case 'next':
        if (bound) this.nextsInStep.add(rule.name.text)
        return
      case 'start':
      case 'reward':
      case 'discount':
      case 'end':
      case 'check':
      case 'policy':
      case 'observe':
      case 'same':
      case 'pass':
      case 'impossible':
        return
      default:
        rule satisfies never
    }
  }

  private domain(dimension: Dimension): string {
    const { kind, low, high, size, texts, nearest } = dimension
    if (kind === 'whole')
      return `{"kind": "whole", "values": range(${low}, ${high + 1}), "texts": [str(i) for i in range(${low}, ${high + 1})]}`
    const values = Array.from({ length: size }, (_, i) =>
      kind === 'words'
        ? quoted(this.program.words.texts[valueAt(dimension, i)])
        : kind === 'truth'
          ? ['False', 'True'][i]
          : String(valueAt(dimension, i)),
    )
    const ends =
      kind === 'buckets'
        ? `, "low": ${low}, "high": ${high}, "size": ${size}, "nearest": ${nearest ? 'True' : 'False'}`
        : ''
    return `{"kind": ${quoted(kind)}, "values": (${values.join(', ')},), "texts": ${JSON.stringify(texts)}${ends}}`
  }

  /** Knobs and tables. */
  private constants(): string[] {
    const { writer, program } = this
    return this.rules.flatMap((rule) => {
      if (rule.type === 'knob')
        return [
          `${pythonName(rule.name.text)} = ${program.knobs.find(({ name }) => name === rule.name.text)!.value}`,
        ]
      if (rule.type !== 'table') return []
      const keys = rule.words?.map(({ text }) => quoted(text)).join(', ')
      const first = rule.first ? `, first=int(${writer.expression(rule.first)})` : ''
      const named = keys === undefined ? first : `, keys=[${keys}]`
      return [
        `${pythonName(rule.name.text)} = Items([${rule.items.map((item) => writer.expression(item)).join(', ')}]${named})`,
      ]
    })
  }

  /** What the parts of actions are in a choice, its own and those that it gives other ones. */
  private parts(choice: Choice): string[] {
    const { program, writer } = this
    const rule = this.rules.find(
      (each): each is RuleOf<'action'> =>
        each.type === 'action' && each.name.text === program.groups[choice.group],
    )!
    return [
      ...choice.parts.map(
        ({ name, value, isWord, text }) => `${quoted(name)}: ${isWord ? quoted(text) : value}`,
      ),
      ...rule.given.map(({ name, value }) => `${quoted(name.text)}: ${writer.expression(value)}`),
    ]
  }

  private ends(): string {
    const conditions = this.rules.filter(
      (rule): rule is RuleOf<'end'> => rule.type === 'end' && rule.at === 'when',
    )
    return this.truth('ends', 'if isinstance(state, str):\n        return True', conditions)
  }

  private passes(): string {
    const conditions = this.rules.filter((rule): rule is RuleOf<'pass'> => rule.type === 'pass')
    return this.truth('passes', 'if ends(state):\n        return False', conditions)
  }

  private truth(name: string, guard: string, rules: readonly { readonly condition: Expression }[]): string {
    if (!rules.length) return `def ${name}(state):\n    ${guard}\n    return False`
    const lines = this.body('state')
    lines.settle(rules.map(({ condition }) => condition))
    const conditions = rules.map(({ condition }) => this.writer.expression(condition))
    return `def ${name}(state):
    ${guard}
${lines.text()}    return ${conditions.join(' or ')}`
  }

  private possible(): string {
    const { program } = this
    const lines = this.body('state')
    const guarded = this.rules.filter(
      (rule): rule is RuleOf<'action'> & { when: Expression } =>
        rule.type === 'action' && rule.when !== undefined,
    )
    lines.settle(guarded.map(({ when }) => when))
    const tests = guarded.map(
      ({ name, when }) =>
        `        if action == ${quoted(name.text)} and not ${this.writer.expression(when)}:\n            continue\n`,
    )
    return `def _possible(state):
${lines.text()}    found = []
    for choice, (action, parts) in ACTIONS.items():
${this.partNames()
  .map((part) => `        ${pythonName(part)} = parts.get(${quoted(part)})\n`)
  .join('')}${tests.join('')}        found.append(choice)
    return found


def actions(state):
    if ends(state) or passes(state):
        return []
    return ${program.treatment === 'forbidden' ? '_possible(state)' : 'list(ACTIONS)'}${program.treatment === 'clamped' ? NEAREST : ''}`
  }

  private outcomes(): string {
    const { program, writer } = this
    const { treatment } = program
    const lines = this.body('step')
    const impossible = this.rules.find((rule): rule is RuleOf<'impossible'> => rule.type === 'impossible')
    const penalty = impossible?.penalty
    lines.settle([
      ...this.rules.flatMap((rule) => (rule.type === 'end' && rule.at === 'after' ? [rule.condition] : [])),
      ...(penalty ? [penalty] : []),
    ])
    for (const { name } of program.variables) lines.settleOne(name)
    if (penalty) lines.add(`if not possible:`, `    r${lines.depth} -= ${writer.expression(penalty)}`)
    const after = this.rules.filter(
      (rule): rule is RuleOf<'end'> => rule.type === 'end' && rule.at === 'after',
    )
    after.forEach((rule, k) =>
      lines.add(
        `${k ? 'elif' : 'if'} ${writer.expression(rule.condition)}:`,
        `    arrived = [(${quoted(program.endsAfter[k].title)}, 1.0)]`,
      ),
    )
    const arrive = `arrived = _arrive([${program.variables.map(({ name }) => nextName(name)).join(', ')}]${treatment === 'penalised' ? ', not possible' : ''})`
    if (after.length) lines.add('else:', `    ${arrive}`)
    else lines.add(arrive)
    const k = lines.depth
    lines.add(`for to, share in arrived:`, `    found.append((p${k} * share, r${k}, d${k}, to))`)
    // Where no line says how steps are discounted, those that pass have a discount of their own.
    const passing =
      program.pass && !program.discounts.length
        ? `${program.pass.discount} if choice is None else 1.0`
        : '1.0'
    const choice =
      treatment === 'clamped'
        ? 'ACTIONS[choice if possible else _nearest(choice, _possible(state))]'
        : 'ACTIONS[choice]'
    const refusal =
      treatment === 'forbidden'
        ? `\n    if not possible:\n        raise ValueError(f"{choice} is not possible in the state {name_of(state)}.")`
        : ''
    return `def outcomes(state, choice):
    possible = choice is None or choice in _possible(state)${refusal}
    action, parts = ("pass", {}) if choice is None else ${choice}
${this.partNames()
  .map((part) => `    ${pythonName(part)} = parts.get(${quoted(part)})\n`)
  .join('')}    found = []
    p0, r0, d0 = 1.0, 0.0, ${passing}
${lines.text()}    return _merged(found)`
  }

  private partNames(): string[] {
    return [
      ...new Set(
        this.rules.flatMap((rule) =>
          rule.type === 'action'
            ? [...(rule.levels ? [rule.name.text] : []), ...rule.parts.map(({ name }) => name.text)]
            : [],
        ),
      ),
    ]
  }

  /** The rules in their order: all of them, or those that follow from the state alone. */
  private body(kind: 'state' | 'step'): BodyWriter {
    const body = new BodyWriter(this.writer, this.program)
    for (const rule of this.rules) {
      if (kind === 'step' || !this.needsStep(rule)) body.rule(rule)
    }
    return body
  }

  private needsStep(rule: Rule): boolean {
    if (rule.type === 'let') return this.inStep.has(rule.name.text)
    return rule.type !== 'next' || this.nextsInStep.has(rule.name.text)
  }
}
