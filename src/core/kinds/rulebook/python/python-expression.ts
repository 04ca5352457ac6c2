import type { Distribution, Expression } from '../syntax'

/** What Python has its own meaning for; rulebook names like these get a line behind them. */
const TAKEN: ReadonlySet<string> = new Set(
  (
    'False None True and as assert async await break class continue def del elif else except finally for from global if ' +
    'import in is lambda nonlocal not or pass raise return try while with yield ' +
    'math np len list min max sum sorted range enumerate zip isinstance int abs any all tuple dict str float next ' +
    'Items name_of model outcomes actions passes ends action choice state reward discount found hold ACTIONS STARTS ' +
    'parts possible arrived to share p other same distance'
  ).split(' '),
)

/** A rulebook's name in Python. */
export function pythonName(name: string): string {
  // Names of the file itself begin with a line, or end with a number.
  if (/^_|^[prd]\d+$/.test(name)) return `n_${name}`
  return TAKEN.has(name) ? `${name}_` : name
}

/** What a variable will be. */
export function nextName(name: string): string {
  return `_next_${name}`
}

export function quoted(text: string): string {
  return JSON.stringify(text)
}

/** Where names of a rulebook come from. */
export interface PythonScope {
  /** Names that have a value, … */
  readonly values: ReadonlySet<string>
  /** … and functions that the rulebook declares. */
  readonly functions: ReadonlySet<string>
  readonly actions: ReadonlySet<string>
}

/** Functions of the language that Python has under the same name, or under one of the file's own. */
export const PYTHON_FUNCTIONS: Readonly<Record<string, string>> = {
  abs: 'abs',
  floor: 'math.floor',
  ceil: 'math.ceil',
  sqrt: 'math.sqrt',
  exp: 'math.exp',
  sin: 'math.sin',
  cos: 'math.cos',
  sum: 'sum',
  length: 'len',
  any: 'any',
  all: 'all',
}

/** Writes expressions as Python. Every operation has its brackets, so that nothing depends on which binds first. */
export class PythonWriter {
  constructor(
    private readonly scope: PythonScope,
    private readonly locals: ReadonlySet<string> = new Set(),
  ) {}

  with(names: readonly string[]): PythonWriter {
    return new PythonWriter(this.scope, new Set([...this.locals, ...names]))
  }

  expression(e: Expression): string {
    switch (e.type) {
      case 'number':
        return String(e.value)
      case 'truth':
        return e.value ? 'True' : 'False'
      case 'name':
        return this.name(e.name)
      case 'next':
        return nextName(e.name.text)
      case 'not':
        return `(not ${this.expression(e.of)})`
      case 'minus':
        return `(-${this.expression(e.of)})`
      case 'binary':
        return this.binary(e)
      case 'if':
        return `(${this.expression(e.then)} if ${this.expression(e.condition)} else ${this.expression(e.otherwise)})`
      case 'call':
        return this.call(e)
      case 'item':
        return `_at(${this.expression(e.of)}, ${this.expression(e.index)})`
      case 'list': {
        const items = e.items.map((item) => this.expression(item)).join(', ')
        const keys = e.keys?.map((key) => this.expression(key)).join(', ')
        return `Items([${items}]${keys === undefined ? '' : `, keys=[${keys}]`})`
      }
      case 'each':
        return this.each(e)
    }
  }

  /** A list of pairs of a value and its probability. @param list  the chance's name and length, where it is a list */
  distribution(d: Distribution, list?: { readonly name: string; readonly length: Expression }): string {
    if (!list) return this.draw(d)
    const item = this.scope.values.has('item') ? '_item' : 'item'
    const inner = this.with([list.name, 'item'])
    return `_one_by_one(${this.expression(list.length)}, lambda ${item}, ${pythonName(list.name)}: ${inner.draw(d)})`
  }

  private draw({ table, callee, args, cases, low, high }: Distribution): string {
    if (table) return `_table(${this.expression(table)})`
    const value = (e: Expression) => this.expression(e)
    if (callee.text === 'pick' || callee.text === 'sample') {
      const pairs = [
        ...cases.map((each) => `(${value(each.value)}, ${each.chance ? value(each.chance) : 'None'})`),
        ...args.map((arg) => `(${value(arg)}, 1)`),
      ]
      return `_${callee.text}(${pairs.join(', ')})`
    }
    const cut = [...(low ? [`low=${value(low)}`] : []), ...(high ? [`high=${value(high)}`] : [])]
    return `_${callee.text}(${[...args.map(value), ...cut].join(', ')})`
  }

  private name(name: string): string {
    if (this.locals.has(name) || this.scope.values.has(name)) return pythonName(name)
    return name === 'action' ? 'action' : quoted(name)
  }

  private binary({ operator, left, right }: Extract<Expression, { type: 'binary' }>): string {
    const isAction = (e: Expression) => e.type === 'name' && e.name === 'action'
    // Beside `action =` a name means the action, not its level.
    const side = (e: Expression, other: Expression) =>
      isAction(other) && e.type === 'name' && this.scope.actions.has(e.name)
        ? quoted(e.name)
        : this.expression(e)
    const words: Readonly<Record<string, string>> = { '=': '==', mod: '%', '^': '**' }
    return `(${side(left, right)} ${words[operator] ?? operator} ${side(right, left)})`
  }

  private call({ callee, args }: Extract<Expression, { type: 'call' }>): string {
    const own = this.scope.functions.has(callee.text)
    const name = own ? pythonName(callee.text) : (PYTHON_FUNCTIONS[callee.text] ?? `_${callee.text}`)
    return `${name}(${args.map((arg) => this.expression(arg)).join(', ')})`
  }

  /** A whole number that Python takes as one: what was divided is a float there. */
  private whole(e: Expression): string {
    return e.type === 'number' ? String(e.value) : `int(${this.expression(e)})`
  }

  private each({ item, walks }: Extract<Expression, { type: 'each' }>): string {
    const names = walks.map(({ name }) => name.text)
    const lists = walks.map(({ over }) =>
      over.type === 'list'
        ? this.expression(over.list)
        : `range(${this.whole(over.from)}, ${this.whole(over.to)} + 1)`,
    )
    const targets = names.map(pythonName).join(', ')
    const source = lists.length === 1 ? lists[0] : `zip(${lists.join(', ')})`
    return `Items(${this.with(names).expression(item)} for ${targets} in ${source})`
  }
}
