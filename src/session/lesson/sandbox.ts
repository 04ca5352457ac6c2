import type { Comparison } from '../../core/compare/comparison'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { Scene } from '../../core/lesson/scene'
import { type ComparisonStore } from '../api/comparisons'
import type { JobServer } from '../api/jobs'
import { browserKeptRuns, type KeptRuns } from '../learn/kept-run'
import { openStudy, type Keeping } from '../study/open-study'
import type { Study } from '../study/study'

const LONG_AGO = new Date(0).toISOString()

/** Where a view is played with: nothing of it is saved, and runs of others are not told of. */
function keepingNothing(comparison: Comparison | null): Keeping {
  return {
    save: () => Promise.resolve({ revision: 1, updatedAt: LONG_AGO }),
    read: () => Promise.reject(new Error('Nothing is kept of what a lesson shows.')),
    runs: RUNS_OF_COMPARISONS,
    comparisons: memoryComparisons(comparison),
    jobs: NO_JOBS,
  }
}

/** Runs of comparisons are kept, as they take long and are the same whenever they are played; others are begun anew. */
const RUNS_OF_COMPARISONS: KeptRuns = (() => {
  const kept = browserKeptRuns()
  return {
    read: (what, environment) =>
      what === 'comparison' ? kept.read(what, environment) : Promise.resolve(undefined),
    write: (what, environment, record) =>
      what === 'comparison' ? kept.write(what, environment, record) : Promise.resolve(),
    forget: () => Promise.resolve(),
  }
})()

const NO_JOBS: JobServer = {
  list: () => Promise.resolve({ jobs: [], notice: null }),
  submit: () => Promise.reject(new Error('A lesson has no jobs.')),
  change: () => Promise.resolve(),
  remove: () => Promise.resolve(),
  results: () => Promise.reject(new Error('A lesson has no jobs.')),
}

/** One comparison, and those that are made while the page is open. */
function memoryComparisons(first: Comparison | null): ComparisonStore {
  const kept = new Map<string, Comparison>(first ? [['1', first]] : [])
  const summary = (id: string) => ({ id, name: kept.get(id)!.name, updatedAt: LONG_AGO })
  let count = kept.size
  return {
    list: () => Promise.resolve([...kept.keys()].map(summary)),
    create(_environment, comparison) {
      const id = String(++count)
      kept.set(id, comparison)
      return Promise.resolve(summary(id))
    },
    read: (id) => Promise.resolve(kept.get(id)!),
    write(id, comparison) {
      kept.set(id, comparison)
      return Promise.resolve(true)
    },
    remove: () => Promise.resolve(),
    restore: () => Promise.resolve(),
  }
}

/**
 * A study of a document of its own, in which nothing is saved.
 * @param id  what runs are remembered by
 */
export function openSandbox(
  id: string,
  document: EnvironmentDocument,
  { stage, layers, compare }: Pick<Scene, 'stage' | 'layers' | 'compare'>,
): Study {
  const record = { id, revision: 1, updatedAt: LONG_AGO, document, base: null }
  return openStudy(record, stage, null, layers, keepingNothing(compare))
}
