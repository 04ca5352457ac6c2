import { formatCount, formatNumber, significantNumber } from '../formats/number'

/** A value for people, with no more places than it is worth. */
export function amount(value: number): string {
  return significantNumber(value)
}

/** A share for people: `3 %`, `0.04 %`, `less than 0.0001 %`. */
export function percent(share: number): string {
  if (share > 0 && share < 1e-6) return 'less than 0.0001\u00a0%'
  if (share < 1 && share > 0.9995) return 'more than 99.9\u00a0%'
  return `${share === 0 || share >= 0.01 ? formatNumber(100 * share, 1) : significantNumber(100 * share, 1)}\u00a0%`
}

/** `1 step`, `12 steps`. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${formatCount(count)} ${count === 1 ? one : many}`
}

/** Words with which a sentence begins. */
export function asBeginning(words: string): string {
  return words[0].toUpperCase() + words.slice(1)
}
