import type { Variable } from './variables'

/** Values that variables can take together, at the most; fewer may be reachable. */
export const COMBINATION_LIMIT = 1e9

/** How many values a variable has. */
export function variableSize({ dimensions }: Variable): number {
  return dimensions.reduce((product, { size }) => product * size, 1)
}

/** What each variable contributes: `evening 10 × left 13`. */
export function contributions(variables: readonly Variable[]): string {
  return variables
    .map((variable) =>
      variable.isList
        ? `${variable.name} ${sizeText(variableSize(variable))} (${variable.dimensions[0].size} each in ${variable.dimensions.length} places)`
        : `${variable.name} ${sizeText(variableSize(variable))}`,
    )
    .join(' × ')
}

export function sizeText(size: number): string {
  if (size < 1e6) return String(size)
  const exponent = Math.floor(Math.log10(size))
  return `${Number((size / 10 ** exponent).toFixed(1))} × 10^${exponent}`
}
