import type { Comparison } from '../../core/compare/comparison'
import type { ComparisonSummary } from '../../server/contract/comparisons'
import { send } from './send'

const ROOT = '/api/comparisons'
const of = (environment: string) => `/api/environments/${environment}/comparisons`

/** Where the comparisons of an environment are kept; tests bring their own. */
export interface ComparisonStore {
  list(environment: string): Promise<ComparisonSummary[]>
  create(environment: string, comparison: Comparison): Promise<ComparisonSummary>
  read(id: string): Promise<Comparison>
  write(id: string, comparison: Comparison): Promise<void>
  remove(id: string): Promise<void>
}

/** Browsers send bodies up to 64 kB on after a page is gone; a character may take three bytes. */
const KEPT = 20_000

export const serverComparisons: ComparisonStore = {
  list: async (environment) => (await send(of(environment))).json(),
  create: async (environment, comparison) =>
    (await send(of(environment), { method: 'POST', body: JSON.stringify(comparison) })).json(),
  read: async (id) => (await send(`${ROOT}/${id}`)).json(),
  async write(id, comparison) {
    const body = JSON.stringify(comparison)
    await send(`${ROOT}/${id}`, { method: 'PUT', body, keepalive: body.length < KEPT })
  },
  async remove(id) {
    await send(`${ROOT}/${id}`, { method: 'DELETE' })
  },
}
