import { mentionsOf, readBy } from '../mentions'
import type { Program } from '../program'
import type { Expression, Rule, RuleOf } from '../syntax'
import { nextName, pythonName, type PythonWriter } from './python-expression'

/** The lines of a function, deeper by one block after every chance. */
export class BodyWriter {
  private readonly lines: string[] = []
  /** How many chances have fallen. */
  depth = 0
  private readonly nexts = new Map<string, RuleOf<'next'>[]>()
  private readonly settled = new Set<string>()

  constructor(
    private readonly writer: PythonWriter,
    private readonly program: Program,
  ) {
    program.variables.forEach(({ name, isList }, i) =>
      this.add(`${pythonName(name)} = ${isList ? `Items(state[${i}])` : `state[${i}]`}`),
    )
  }

  text(): string {
    return this.lines.map((line) => `${line}\n`).join('')
  }

  add(...lines: readonly string[]): void {
    for (const line of lines) this.lines.push(`${'    '.repeat(this.depth + 1)}${line}`)
  }

  /** Works out what variables will be, where some expressions read that. */
  settle(expressions: readonly Expression[]): void {
    for (const name of mentionsOf(...expressions).nexts) this.settleOne(name)
  }

  settleOne(name: string): void {
    if (this.settled.has(name)) return
    this.settled.add(name)
    const variable = this.program.variables.find((each) => each.name === name)
    if (!variable) return
    const rules = this.nexts.get(name) ?? []
    const { length } = variable.dimensions
    const value = rules.some(({ item }) => item)
      ? `Items([${this.itemwise(name, rules, length)} for _i in range(1, ${length + 1})])`
      : rules.reduceRight((rest, { value: e, when }) => {
          const text = this.writer.expression(e)
          const filled = variable.isList ? `_fill(${text}, ${length})` : text
          return when ? `(${filled} if ${this.writer.expression(when)} else ${rest})` : filled
        }, pythonName(name))
    this.add(`${nextName(name)} = ${value}`)
  }

  /** What item _i of a list will be, where some line speaks of one item alone. */
  private itemwise(name: string, rules: readonly RuleOf<'next'>[], length: number): string {
    return rules.reduceRight(
      (rest, { item, value: e, when }) => {
        const text = this.writer.expression(e)
        const holds = [
          ...(when ? [this.writer.expression(when)] : []),
          ...(item ? [`_within_list(${this.writer.expression(item)}, ${length}) == _i`] : []),
        ].join(' and ')
        const value = item ? text : `_at(_fill(${text}, ${length}), _i)`
        return holds ? `(${value} if ${holds} else ${rest})` : value
      },
      `_at(${pythonName(name)}, _i)`,
    )
  }

  rule(rule: Rule): void {
    const { writer } = this
    // What an action may be is asked for elsewhere.
    if (rule.type !== 'action') for (const name of readBy(rule).nexts) this.settleOne(name)
    switch (rule.type) {
      case 'let':
        if (rule.parameters) {
          const names = rule.parameters.map(({ text }) => text)
          this.add(
            `def ${pythonName(rule.name.text)}(${names.map(pythonName).join(', ')}):`,
            `    return ${writer.with(names).expression(rule.value)}`,
          )
          return
        }
        return this.add(`${pythonName(rule.name.text)} = ${writer.expression(rule.value)}`)
      case 'measure':
        return this.add(`${pythonName(rule.name.text)} = ${writer.expression(rule.value)}`)
      case 'chance': {
        const list = rule.length && { name: rule.name.text, length: rule.length }
        this.add(`for ${pythonName(rule.name.text)}, p in ${writer.distribution(rule.distribution, list)}:`)
        const k = this.depth++
        return this.add(`p${k + 1}, r${k + 1}, d${k + 1} = p${k} * p, r${k}, d${k}`)
      }
      case 'reward':
        return this.guarded(rule.when, `r${this.depth} += ${writer.expression(rule.value)}`)
      case 'discount':
        return this.guarded(rule.when, `d${this.depth} *= ${writer.expression(rule.value)}`)
      case 'next':
        return void this.nexts.set(rule.name.text, [...(this.nexts.get(rule.name.text) ?? []), rule])
      // Written by the module, in front of what a step does or behind it; what nothing in it reads is left out.
      case 'knob':
      case 'table':
      case 'state':
      case 'start':
      case 'action':
      case 'end':
      case 'pass':
      case 'same':
      case 'impossible':
      case 'check':
      case 'policy':
      case 'observe':
        return
      default:
        rule satisfies never
    }
  }

  private guarded(when: Expression | undefined, line: string): void {
    if (when) this.add(`if ${this.writer.expression(when)}:`, `    ${line}`)
    else this.add(line)
  }
}
