import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { askOf } from '../../core/compare/asked-runs'
import type { Comparison } from '../../core/compare/comparison'
import { contestantNames, documentFor } from '../../core/compare/contestant'
import { LearningRuns, type LearningRun } from '../../core/compare/learning-runs'
import { parseComparison } from '../../core/compare/read-comparison'
import { parseEnvironment } from '../../core/environment/document'
import type { EnvironmentDocument } from '../../core/kinds/kinds'

const RUNS = 4

function load(name: string, environment: string): [Comparison, EnvironmentDocument] {
  const document = parseEnvironment(readFileSync(`demo/${environment}.json`, 'utf8'))
  return [parseComparison(readFileSync(`demo/comparisons/${name}.json`, 'utf8'), document), document]
}

/** A few runs of each contestant. */
function played([comparison, document]: [Comparison, EnvironmentDocument]): readonly LearningRun[][] {
  const ask = askOf(comparison)
  return comparison.contestants.map((contestant) => {
    const runs = new LearningRuns({
      document: documentFor(document, contestant),
      choice: contestant.choice,
      ask,
    })
    return Array.from({ length: RUNS }, (_, run) => runs.play(run))
  })
}

const mean = (runs: readonly LearningRun[], of: (run: LearningRun) => number) =>
  runs.reduce((sum, run) => sum + of(run), 0) / runs.length

describe('what the comparisons of the demo say of themselves', () => {
  it('on-policy learning earns more while it explores, off-policy learning finds the better way', () => {
    const opened = load('on-and-off-policy', 'alarm-beam')
    expect(contestantNames(opened[0].contestants)).toEqual(['Q-learning', 'SARSA', 'Expected SARSA'])
    const [q, sarsa] = played(opened)
    expect(mean(sarsa, (run) => run.mean)).toBeGreaterThan(mean(q, (run) => run.mean) + 1)
    expect(mean(q, (run) => run.exact!)).toBeCloseTo(q[0].optimum!, 6)
    expect(mean(sarsa, (run) => run.exact!)).toBeLessThan(q[0].optimum! - 5)
  })

  it('the best policy earns less in a room of coarse buckets', () => {
    const [ten, twenty, forty] = played(load('how-many-buckets', 'conservators-humidity'))
    expect(ten[0].optimum!).toBeLessThan(twenty[0].optimum! - 1)
    expect(twenty[0].optimum!).toBeLessThan(forty[0].optimum! - 0.3)
    for (const [run] of [ten, twenty, forty]) expect(run.exact!).toBeCloseTo(run.optimum!, 1)
  })

  it('a penalty below what the impossible action earns teaches to take it', () => {
    const [forbidden, clamped, five, more] = played(load('impossible-actions', 'cloakroom-queue'))
    expect(clamped[0].optimum!).toBeCloseTo(forbidden[0].optimum!, 6)
    expect(five[0].optimum!).toBeGreaterThan(forbidden[0].optimum! + 50)
    expect(more[0].optimum!).toBeCloseTo(forbidden[0].optimum!, 6)
    expect(mean(more, (run) => run.exact!)).toBeCloseTo(forbidden[0].optimum!, 0)
  })
})
