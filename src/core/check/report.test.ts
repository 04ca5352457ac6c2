import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import type { EnvironmentDocument } from '../kinds/kinds'
import { formatCount } from '../formats/number'
import { gridDocument } from '../testing/models'
import { checkEnvironment } from '../environment/document'
import { checkEnvironmentModel } from './check'
import { reportData, reportLines, reportMarkdown } from './report'
import { LOOKED_AT } from './rules/ways'

const reportOf = (document: EnvironmentDocument) =>
  checkEnvironmentModel(document, compileEnvironment(document))

const rulebook = (...lines: string[]): EnvironmentDocument =>
  checkEnvironment({
    format: 'jaunty-pawn/environment',
    version: 2,
    name: 'Test',
    discount: 0.9,
    cap: 50,
    kind: 'rulebook',
    rulebook: { text: lines.join('\n'), knobs: {} },
  })

describe('what was not looked for', () => {
  // Two actions in each of the states but the last: more pairs than are looked at one by one.
  const long = reportOf(
    rulebook(
      `state lamps from 0 to ${LOOKED_AT / 2 + 9}`,
      'start lamps = 1',
      'action light from 0 to 1',
      'chance wind ~ pick(calm: 50%, storm: rest)',
      'reward 3 when wind = calm',
      'next lamps = lamps + 1 when light = 1 and wind = calm',
      `end when lamps = ${LOOKED_AT / 2 + 9}`,
    ),
  )

  it('is told by its rules, with the reason, and never as something that holds', () => {
    expect(long.leftOut.map(({ rule }) => rule).sort()).toEqual([
      'carried-out',
      'idle-chance',
      'reward-never',
    ])
    expect(new Set(long.leftOut.map(({ why }) => why))).toEqual(
      new Set([`There are more than ${formatCount(20_000)} pairs of state and action.`]),
    )
    const left = new Set(long.leftOut.map(({ rule }) => rule))
    expect(long.proved.filter(({ rule }) => left.has(rule))).toEqual([])
  })

  it('stands in each form of the report', () => {
    const line = `carried-out: There are more than ${formatCount(20_000)} pairs of state and action.`
    expect(reportLines(long)).toMatch(new RegExp(`^Not looked for:\n(  .*\n)*  ${line}\n`, 'm'))
    expect(reportMarkdown('Lamps', long)).toMatch(
      new RegExp(`^## Not looked for\n\n(- .*\n)*- ${line}\n`, 'm'),
    )
    expect(reportData(long).leftOut).toContainEqual({
      rule: 'carried-out',
      why: `There are more than ${formatCount(20_000)} pairs of state and action.`,
    })
  })

  it('is nothing in a small environment', () => {
    const small = reportOf(gridDocument(['...'], { starts: [{ at: 'A1', weight: 1 }] }))
    expect(small.leftOut).toEqual([])
    expect(reportLines(small)).not.toContain('Not looked for')
  })
})

it('cells that nothing leads to are named where they have no state', () => {
  const { findings } = reportOf(
    gridDocument(['.#..'], {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: 'D1', reward: 1, name: 'lift' }],
    }),
  )
  const cells = (rule: string) => findings.find((each) => each.rule === rule)!.cells
  expect(cells('unreached')).toEqual(['C1'])
  expect(cells('never-ends')).toEqual(['D1'])
})

it('up to a hundred different rewards are told one by one, each with a place', () => {
  const paying = (most: number) =>
    reportOf(
      rulebook(
        `state lamps from 0 to ${most}`,
        'start lamps = 1',
        'action light',
        'reward lamps',
        'next lamps = lamps + 1',
        `end when lamps = ${most}`,
      ),
    ).findings.filter(({ rule }) => rule === 'rewards')
  expect(paying(101).map(({ cause }) => cause)).toEqual(
    Array.from({ length: 100 }, (_, i) => `A step can pay ${i + 1}.`),
  )
  expect(paying(102).map(({ cause }) => cause)).toEqual([
    'There are more than 100 different rewards; the smallest of a step is 1.',
    'There are more than 100 different rewards; the largest of a step is 101.',
  ])
})
