import type { Comparison } from '../../core/compare/comparison'
import type { ComparisonSummary } from '../../server/contract/comparisons'
import { takeFromBin } from './bin'
import { GoneError, put, send } from './send'

const ROOT = '/api/comparisons'
const of = (environment: string) => `/api/environments/${environment}/comparisons`

/** Where the comparisons of an environment are kept; tests bring their own. */
export interface ComparisonStore {
  list(environment: string): Promise<ComparisonSummary[]>
  create(environment: string, comparison: Comparison): Promise<ComparisonSummary>
  read(id: string): Promise<Comparison>
  /** @returns whether it was there */
  write(id: string, comparison: Comparison): Promise<boolean>
  remove(id: string): Promise<void>
  /** Brings back one that was removed. */
  restore(id: string): Promise<void>
}

export const serverComparisons: ComparisonStore = {
  list: async (environment) => (await send(of(environment))).json(),
  create: async (environment, comparison) =>
    (await send(of(environment), { method: 'POST', body: JSON.stringify(comparison) })).json(),
  read: async (id) => (await send(`${ROOT}/${id}`)).json(),
  async write(id, comparison) {
    try {
      await put(`${ROOT}/${id}`, comparison)
      return true
    } catch (error) {
      if (error instanceof GoneError) return false
      throw error
    }
  },
  async remove(id) {
    await send(`${ROOT}/${id}`, { method: 'DELETE' })
  },
  restore: (id) => takeFromBin('comparison', id),
}
