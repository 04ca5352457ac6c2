import { copyAddressWith, partOfAddress } from '../address'

/** The part of an address that names a comparison. */
export const COMPARISON = 'comparison'

/** The comparison that an address asks for; null for none. */
export function linkedComparison(address: string): string | null {
  return partOfAddress(address, COMPARISON)
}

export const copyComparisonLink = (id: string) => copyAddressWith(COMPARISON, id)
