import { describe, expect, it } from 'vitest'
import { checkEnvironmentModel } from '../../../check/check'
import { compileEnvironment } from '../../../environment/compile'
import { checkEnvironment } from '../../../environment/document'
import { solveOptimum } from '../../../plan/solve'
import { startValue } from '../../../model/model'
import { scorePolicies } from '../../../evaluate/scores'
import { hidden } from './hidden'
import { PATTERNS, patternEnvironment } from './patterns'

describe.each(PATTERNS.map((pattern) => [pattern.title, pattern] as const))('%s', (_, pattern) => {
  const document = checkEnvironment(JSON.parse(JSON.stringify(patternEnvironment(pattern, ''))))
  const compiled = compileEnvironment(document)

  it('is a complete small rulebook with nothing to be noted, whose policies say something everywhere', () => {
    if (compiled.kind !== 'rulebook') throw new Error()
    expect(pattern.text.split('\n').length).toBeLessThan(42)
    expect(compiled.facts.notes).toEqual([])
    expect(compiled.facts.checks.filter(({ broken }) => broken)).toEqual([])
    expect(compiled.policies.length).toBeGreaterThan(0)
    expect(compiled.model.states).toBeLessThan(700)
  })

  it('has an optimum above its written policies, which are worth different things', () => {
    const { model, policies, measures } = compiled
    const optimum = startValue(model, solveOptimum(model, document.discount)!.values)
    expect(Number.isFinite(optimum)).toBe(true)
    for (const { value } of scorePolicies(model, policies, measures, document.discount))
      if (value !== null) expect(value).toBeLessThanOrEqual(optimum + 1e-7)
  })

  it('becomes another model by what is to be changed first', () => {
    const { from, to } = pattern.change
    expect(pattern.text.split(from)).toHaveLength(2)
    const changed = compileEnvironment(
      patternEnvironment({ ...pattern, text: pattern.text.replace(from, to) }, ''),
    )
    const seen = ({ model }: Pick<typeof compiled, 'model'>) => [
      startValue(model, solveOptimum(model, document.discount)!.values).toFixed(6),
      model.observations,
    ]
    expect(seen(changed)).not.toEqual(seen(compiled))
  })

  it('passes every check but for what it is about', () => {
    const told = checkEnvironmentModel(document, compiled).findings.filter(
      ({ severity }) => severity !== 'fact',
    )
    // What the walk with a hidden part is about.
    expect(told.map(({ rule }) => rule)).toEqual(pattern === hidden ? ['look-alikes'] : [])
  })
})
