/**
 * A number for people: a true minus sign, no trailing zeros, never "NaN".
 * `digits` counts the places after the point; very large and very small numbers turn to powers of ten.
 */
export function formatNumber(x: number, digits = 2): string {
  if (Number.isNaN(x)) return '–'
  if (!Number.isFinite(x)) return x > 0 ? '∞' : '−∞'
  const size = Math.abs(x)
  if (size === 0) return '0'
  if (size >= 1e6 || size < 0.5 * 10 ** -digits) {
    const [mantissa, exponent] = x.toExponential(1).split('e')
    return minus(`${mantissa.replace(/\.0$/, '')}e${Number(exponent)}`)
  }
  return minus(
    x
      .toFixed(digits)
      .replace(/(\.\d*?)0+$/, '$1')
      .replace(/\.$/, ''),
  )
}

/** A number to so many significant digits, for errors and changes of any size. */
export function significantNumber(x: number, digits = 3): string {
  return formatNumber(Number.isFinite(x) ? Number(x.toPrecision(digits)) : x, 6)
}

/** A number with a fixed count of places, for columns that should line up. */
export function fixedNumber(x: number, digits = 2): string {
  if (!Number.isFinite(x)) return formatNumber(x)
  const text = x.toFixed(digits)
  return minus(Number(text) === 0 ? text.replace('-', '') : text)
}

/** A signed number, for changes and rewards: `+10`, `−1.5`, `0`. */
export function signedNumber(x: number, digits = 2): string {
  return x > 0 ? `+${formatNumber(x, digits)}` : formatNumber(x, digits)
}

/** A count with narrow spaces between thousands that no line breaks at: `12 400`. */
export function formatCount(n: number): string {
  return String(Math.round(n)).replace(/\B(?=(\d{3})+$)/g, '\u202f')
}

function minus(text: string): string {
  return text.replace(/-/g, '−')
}
