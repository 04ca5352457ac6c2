import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readEnvironment } from '../environment/read'
import { firstChoice } from '../settings/first-choice'
import { FAULTS, sound, type Planted } from '../testing/faults'
import { diagnose } from './diagnose'
import type { DiagnosisReport } from './finding'
import type { DiagnosisRuleId } from './rule-ids'

const VARIATIONS = process.env.LONG ? 50 : 2
const SOUND = process.env.LONG ? 200 : 12
/** The part of the variations in which the right rule must come first. */
const RIGHT = 0.95

function look({ document, choice }: Planted) {
  return diagnose({ document, choice, runs: 0 })
}

/** What is found in a variation of a planted fault, looked for once. */
const found = new Map<string, DiagnosisReport>()
function lookAt(rule: string, seed: number): DiagnosisReport {
  const key = `${rule} ${seed}`
  if (!found.has(key)) found.set(key, look(FAULTS[rule as DiagnosisRuleId]!(seed)))
  return found.get(key)!
}

const first = ({ findings }: DiagnosisReport) => findings.find(({ rule }) => rule !== 'fine')?.rule

describe('the rule of a planted fault comes first', () => {
  for (const rule of Object.keys(FAULTS))
    it(rule, { timeout: 600_000 }, () => {
      const seeds = Array.from({ length: VARIATIONS }, (_, i) => i + 1)
      const right = seeds.filter((seed) => first(lookAt(rule, seed)) === rule).length
      if (process.env.LONG) console.log(`| ${rule} | ${right} of ${VARIATIONS} |`)
      expect(right).toBeGreaterThanOrEqual(RIGHT * VARIATIONS)
    })

  it('and no more once its change was made', { timeout: 600_000 }, () => {
    for (const [rule, plant] of Object.entries(FAULTS)) {
      const { document, choice } = plant(1)
      const { change } = lookAt(rule, 1).findings.find((finding) => finding.rule === rule)!
      if (!change) continue
      const again = look({ document, choice: { ...choice, ...change.choice } })
      expect(again.findings.map((finding) => finding.rule)).not.toContain(rule)
    }
  })
})

it('nothing is found where nothing is wrong', { timeout: 600_000 }, () => {
  const alarms = Array.from({ length: SOUND }, (_, i) => look(sound(i + 1))).filter(
    ({ healthy, findings }) => !healthy || findings.some(({ explains }) => explains > 0),
  ).length
  if (process.env.LONG) console.log(`false alarms: ${alarms} of ${SOUND}`)
  expect(alarms).toBeLessThanOrEqual(0.02 * SOUND)
})

/**
 * What is true of the demos with their suggested settings, beside that nothing is wrong: exploring near the beams costs, the
 * round of the docent pays more than coming home …
 */
const OF_DEMOS: Readonly<Record<string, readonly DiagnosisRuleId[]>> = {
  'alarm-beam': ['exploring-costs'],
  'audio-guide-tip': ['unexplained', 'rate-high'],
  'docents-round': ['circle', 'exploring-costs'],
  'evening-tickets': ['exploring-costs'],
  'same-looking-doors': ['look-alikes'],
  // Half of its runs pull the second best arm in the end.
  'which-poster': ['more-episodes'],
}

/** Demos that do not learn as they stand, and why. */
const FAILING = {
  'lamp-at-the-wall': 'ties',
  'guide-and-the-kitchen': 'discount',
  'trolley-on-the-ramp': 'rate-high',
} as const

describe('on demos that do not learn, the reason comes first', () => {
  for (const [name, rule] of Object.entries(FAILING))
    it(name, { timeout: 120_000 }, () => {
      const document = readEnvironment(readFileSync(`demo/${name}.json`, 'utf8'), name, '.json')
      expect(look({ document, choice: firstChoice(document) } as Planted).findings[0].rule).toBe(rule)
    })
})

describe('on the demos nothing wrong is told', () => {
  for (const file of readdirSync('demo').filter(
    (name) => name.endsWith('.json') && !(name.slice(0, -5) in FAILING),
  ))
    it(file, { timeout: 120_000 }, () => {
      const document = readEnvironment(readFileSync(`demo/${file}`, 'utf8'), file, '.json')
      const { findings, healthy } = look({ document, choice: firstChoice(document) } as Planted)
      const told = findings.filter(({ explains }) => explains > 0).map(({ rule }) => rule)
      const known = OF_DEMOS[file.replace('.json', '')] ?? []
      expect(known).toEqual(expect.arrayContaining(told))
      if (!known.length) expect(healthy).toBe(true)
    })
})
