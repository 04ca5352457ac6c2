import type { RowPolicy } from '../../../core/model/model'

/** Where a policy that is followed comes from: `equiprobable`, `drawn`, `learned` or `written:` and its name. */
export type PolicySource = 'equiprobable' | 'drawn' | 'learned' | `written:${string}`

export const EQUIPROBABLE: PolicySource = 'equiprobable'

/** Finds the policy that a source stands for in a model; null for all actions equally often. */
export type PolicyFinder = (source: PolicySource) => RowPolicy | null
