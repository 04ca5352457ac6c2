import type { LearningRun } from './learning-runs'

/** Numbers of a run that may be missing: NaN, which JSON does not have. */
const MAY_BE_MISSING = ['mean', 'late', 'first', 'next', 'last'] as const

/** Runs as text, to the bit: JSON writes every number so that it is read as the same one; NaN becomes null. */
export function encodeRuns(runs: readonly LearningRun[]): string {
  return JSON.stringify(runs.map((run) => ({ ...run, curves: mapValues(run.curves, (curve) => [...curve]) })))
}

/** Runs as they were written by `encodeRuns`. */
export function decodeRuns(text: string): LearningRun[] {
  return (JSON.parse(text) as LearningRun[]).map((run) => ({
    ...run,
    ...Object.fromEntries(MAY_BE_MISSING.map((name) => [name, (run[name] as number | null) ?? NaN])),
    curves: mapValues(run.curves as unknown as Record<string, (number | null)[]>, (curve) =>
      Float64Array.from(curve, (value) => value ?? NaN),
    ),
  }))
}

function mapValues<A, B>(object: Readonly<Record<string, A>>, map: (value: A) => B): Record<string, B> {
  return Object.fromEntries(Object.entries(object).map(([key, value]) => [key, map(value)]))
}
