/** Exact fractions for tests: slow, and never wrong in the last digit. */
export interface Fraction {
  readonly n: bigint
  readonly d: bigint
}

export function fraction(n: bigint | number, d: bigint | number = 1): Fraction {
  return reduce(BigInt(n), BigInt(d))
}

export function add(x: Fraction, y: Fraction): Fraction {
  return reduce(x.n * y.d + y.n * x.d, x.d * y.d)
}

export function subtract(x: Fraction, y: Fraction): Fraction {
  return reduce(x.n * y.d - y.n * x.d, x.d * y.d)
}

export function times(x: Fraction, y: Fraction): Fraction {
  return reduce(x.n * y.n, x.d * y.d)
}

export function over(x: Fraction, y: Fraction): Fraction {
  return reduce(x.n * y.d, x.d * y.n)
}

export function toNumber(x: Fraction): number {
  return Number((x.n * 10n ** 30n) / x.d) / 1e30
}

export function isLess(x: Fraction, y: Fraction): boolean {
  return x.n * y.d < y.n * x.d
}

/** The solution of a linear system by Gauss-Jordan elimination. */
export function solve(matrix: Fraction[][], right: Fraction[]): Fraction[] {
  const a = matrix.map((row, i) => [...row, right[i]])
  for (let c = 0; c < a.length; c++) {
    const pivot = a.findIndex((row, r) => r >= c && row[c].n !== 0n)
    ;[a[c], a[pivot]] = [a[pivot], a[c]]
    a[c] = a[c].map((x) => over(x, a[c][c]))
    for (let r = 0; r < a.length; r++) {
      if (r === c || a[r][c].n === 0n) continue
      const factor = a[r][c]
      a[r] = a[r].map((x, k) => subtract(x, times(factor, a[c][k])))
    }
  }
  return a.map((row) => row[a.length])
}

function reduce(n: bigint, d: bigint): Fraction {
  let a = n < 0n ? -n : n
  let b = d < 0n ? -d : d
  while (b) [a, b] = [b, a % b]
  const sign = d < 0n ? -1n : 1n
  return a === 0n ? { n: 0n, d: 1n } : { n: (sign * n) / a, d: (sign * d) / a }
}
