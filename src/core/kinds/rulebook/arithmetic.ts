import { RuleFault, type Span } from './place'
import type { BinaryOperator } from './syntax'
import { derived, hull, numberType, TRUTH, type Run, type Scalar } from './values'

/** Where an operator stands, and who is told what is wrong there. */
interface Place {
  readonly span: Span
  tell(span: Span, cause: string, remedy: string): Scalar
}

/** What two numbers come to: a number, or whether they stand so to each other. */
export function arithmetic(operator: BinaryOperator, left: Scalar, right: Scalar, at: Place): Scalar {
  const a = left.run
  const b = right.run
  const x = left.type as Extract<Scalar['type'], { kind: 'number' }>
  const y = right.type as Extract<Scalar['type'], { kind: 'number' }>
  const whole = x.whole && y.whole
  const both = [left, right]
  switch (operator) {
    case '+':
      return derived(numberType(whole, x.low + y.low, x.high + y.high), both, sumOf(left, right))
    case '-':
      return derived(numberType(whole, x.low - y.high, x.high - y.low), both, differenceOf(left, right))
    case '*': {
      const corners = [x.low * y.low, x.low * y.high, x.high * y.low, x.high * y.high]
      return derived(numberType(whole, ...hull(corners)), both, (f) => a(f) * b(f))
    }
    case '/':
      return division(left, right, at)
    case 'mod':
      return remainder(left, right, whole, at)
    case '^':
      return power(left, right, at)
    case '<':
      return derived(TRUTH, both, (f) => (a(f) < b(f) ? 1 : 0))
    case '<=':
      return derived(TRUTH, both, (f) => (a(f) <= b(f) ? 1 : 0))
    case '>':
      return derived(TRUTH, both, (f) => (a(f) > b(f) ? 1 : 0))
    default:
      return derived(TRUTH, both, (f) => (a(f) >= b(f) ? 1 : 0))
  }
}

function division(left: Scalar, right: Scalar, { span: { from, to }, tell }: Place): Scalar {
  const x = left.type as Extract<Scalar['type'], { kind: 'number' }>
  const y = right.type as Extract<Scalar['type'], { kind: 'number' }>
  const remedy = 'Guard it: if … = 0 then … else …'
  if (right.constant === 0) return tell({ from, to }, 'This divides by 0.', 'Divide by something else.')
  const a = left.run
  const b = right.run
  const safe = y.low > 0 || y.high < 0
  const type = safe
    ? numberType(false, ...hull([x.low / y.low, x.low / y.high, x.high / y.low, x.high / y.high]))
    : numberType(false, -Infinity, Infinity)
  if (safe) return derived(type, [left, right], (f) => a(f) / b(f))
  return derived(type, [left, right], (f) => {
    const divisor = b(f)
    if (divisor === 0) throw new RuleFault({ from, to, cause: 'This divides by 0.', remedy })
    return a(f) / divisor
  })
}

/** The remainder, never below 0: the hour after 23 is (hour + 1) mod 24, the one before 0 is (hour - 1) mod 24. */
function remainder(left: Scalar, right: Scalar, whole: boolean, { span: { from, to }, tell }: Place): Scalar {
  const y = right.type as Extract<Scalar['type'], { kind: 'number' }>
  if (y.high <= 0) return tell({ from, to }, 'The number after mod is not above 0.', 'Use a number above 0.')
  const a = left.run
  const b = right.run
  const fixed = right.constant
  const type = numberType(whole, 0, whole ? y.high - 1 : y.high)
  if (fixed !== undefined)
    return derived(type, [left, right], (f) => {
      const value = a(f)
      return value >= 0 && value < fixed ? value : value - fixed * Math.floor(value / fixed)
    })
  return derived(type, [left, right], (f) => {
    const divisor = b(f)
    if (!(divisor > 0))
      throw new RuleFault({
        from,
        to,
        cause: `The number after mod is ${divisor}.`,
        remedy: 'Use a number above 0.',
      })
    const value = a(f)
    return value - divisor * Math.floor(value / divisor)
  })
}

function power(left: Scalar, right: Scalar, { span, tell }: Place): Scalar {
  const exponent = right.constant
  if (exponent === undefined || !Number.isInteger(exponent) || exponent < 0 || exponent > 16)
    return tell(
      span,
      'The exponent is not a constant whole number from 0 to 16.',
      'Write x ^ 2; for a square root, sqrt(x).',
    )
  const x = left.type as Extract<Scalar['type'], { kind: 'number' }>
  const raise = (base: number) => {
    let product = 1
    for (let i = 0; i < exponent; i++) product *= base
    return product
  }
  const ends = [raise(x.low), raise(x.high), ...(x.low < 0 && x.high > 0 ? [raise(0)] : [])]
  return derived(numberType(x.whole, ...hull(ends)), [left], (f) => raise(left.run(f)))
}

/** Sums and differences of what stands in the frame are by far the most frequent: they make no further calls. */
function sumOf({ run: a, slot: i }: Scalar, { run: b, slot: j, constant }: Scalar): Run {
  if (i !== undefined && j !== undefined) return (f) => f[i] + f[j]
  if (i !== undefined && constant !== undefined) return (f) => f[i] + constant
  if (j !== undefined) return (f) => a(f) + f[j]
  return (f) => a(f) + b(f)
}

function differenceOf({ run: a, slot: i }: Scalar, { run: b, slot: j, constant }: Scalar): Run {
  if (i !== undefined && j !== undefined) return (f) => f[i] - f[j]
  if (i !== undefined && constant !== undefined) return (f) => f[i] - constant
  if (j !== undefined) return (f) => a(f) - f[j]
  return (f) => a(f) - b(f)
}
