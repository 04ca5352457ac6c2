/** What a term of a calculation is. The interface gives each role the colour it has on the board. */
export type Role = 'plain' | 'probability' | 'rate' | 'reward' | 'old' | 'next' | 'result'

/** A piece of a formula or of a line of arithmetic. */
export interface Part {
  readonly role: Role
  /** A number to show, … */
  readonly value?: number
  /** … or a symbol, an operator or words. */
  readonly text?: string
  /** The state a number belongs to, so that the board can point at it. */
  readonly state?: number
}

export interface WorkingLine {
  readonly label: string
  readonly parts: readonly Part[]
  /** The line that won: the best action, the new value. */
  readonly strong?: boolean
}

/** A calculation that happened, with its numbers. */
export interface Working {
  readonly title: string
  /** The general rule, in the same roles as the numbers below it. */
  readonly formula: readonly Part[]
  /** The same in LaTeX, with \\chance, \\paid, \\rate, \\was and \\ahead around what has a role. */
  readonly latex?: string
  readonly lines: readonly WorkingLine[]
  /** Places after the point that it takes to see what changed; 3 when left out. */
  readonly digits?: number
  /** A sentence for what the numbers do not say. */
  readonly note?: string
}

/** Writes parts tersely: `say` for operators and words, `num` for numbers. */
export function say(text: string, role: Role = 'plain', state?: number): Part {
  return { role, text, state }
}

export function num(role: Role, value: number, state?: number): Part {
  return { role, value, state }
}

/** A calculation as plain text, for tests, files and screen readers. */
export function workingText(working: Working, format: (value: number) => string): string {
  const text = (parts: readonly Part[]) =>
    parts.map((part) => (part.value === undefined ? part.text : format(part.value))).join(' ')
  return [
    working.title,
    text(working.formula),
    ...working.lines.map((line) => `${line.label}: ${text(line.parts)}${line.strong ? '  *' : ''}`),
    ...(working.note ? [working.note] : []),
  ].join('\n')
}
