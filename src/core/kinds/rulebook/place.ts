import type { Problem, ProblemRule, StoryStep } from '../../problem'

/** A stretch of the text, as offsets: `from` included, `to` not. */
export interface Span {
  readonly from: number
  readonly to: number
}

/** The stretch of something, without the rest of it. */
export function spanOf({ from, to }: Span): Span {
  return { from, to }
}

/** Something wrong at a place of the text. */
export interface Fault extends Span {
  readonly cause: string
  readonly remedy: string
  /** A name that is not known: wrong whatever the knobs are. */
  readonly unknownName?: boolean
  /** How it came about. */
  readonly path?: readonly StoryStep[]
  readonly breaks?: ProblemRule
}

/** Thrown while a rule is evaluated, to be told together with the state it happened in. */
export class RuleFault extends Error {
  override readonly name = 'RuleFault'

  constructor(readonly fault: Fault) {
    super(fault.cause)
  }
}

/** Turns offsets into what people count: lines and columns from 1. */
export class LineMap {
  private readonly starts: number[] = [0]

  constructor(private readonly text: string) {
    for (let i = text.indexOf('\n'); i >= 0; i = text.indexOf('\n', i + 1)) this.starts.push(i + 1)
  }

  line(offset: number): number {
    let low = 0
    let high = this.starts.length - 1
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (this.starts[middle] <= offset) low = middle
      else high = middle - 1
    }
    return low + 1
  }

  /** `line 7, column 3` */
  place(offset: number): string {
    const line = this.line(offset)
    const column = Array.from(this.text.slice(this.starts[line - 1], offset)).length + 1
    return `line ${line}, column ${column}`
  }

  problem({ from, to, cause, remedy, path, breaks }: Fault): Problem {
    return {
      place: this.place(from),
      cause,
      remedy,
      span: { from, to },
      ...(path?.length ? { path } : {}),
      ...(breaks ? { breaks } : {}),
    }
  }
}

/** The known name closest to a misspelt one, when it is close enough to be meant: at most a third of it differs. */
export function nearestName(name: string, known: Iterable<string>): string | undefined {
  let best: string | undefined
  let least = Math.floor(Math.max(3, name.length) / 3) + 1
  for (const each of known) {
    if (Math.abs(each.length - name.length) >= least) continue
    const distance = editDistance(name.toLowerCase(), each.toLowerCase())
    if (distance < least) {
      least = distance
      best = each
    }
  }
  return best
}

/** Insertions, deletions and replacements between two words (Wagner & Fischer 1974). */
function editDistance(one: string, other: string): number {
  let row = Array.from({ length: other.length + 1 }, (_, i) => i)
  for (let i = 1; i <= one.length; i++) {
    const next = [i]
    for (let j = 1; j <= other.length; j++)
      next[j] = Math.min(row[j] + 1, next[j - 1] + 1, row[j - 1] + (one[i - 1] === other[j - 1] ? 0 : 1))
    row = next
  }
  return row[other.length]
}

/** `a`, `a and b`, `a, b and c` */
export function listed(items: readonly string[]): string {
  return items.length < 2 ? items.join('') : `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`
}
