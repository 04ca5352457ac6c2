import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gridDocument } from '../core/testing/models'
import { runCommandLine } from './main'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'pawn-diagnose-'))
  const document = gridDocument(['......'], {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'F1', reward: 10, name: '' }],
    stepReward: 0,
  })
  writeFileSync(join(folder, 'hall.json'), JSON.stringify(document))
  writeFileSync(join(folder, 'settings.json'), JSON.stringify({ ties: 'first' }))
})
afterAll(() => rmSync(folder, { recursive: true }))

async function pawn(...args: string[]) {
  let [out, err] = ['', '']
  const code = await runCommandLine(['diagnose', join(folder, 'hall.json'), ...args], {
    out: (text) => (out += text),
    err: (text) => (err += text),
  })
  return { code, out, err }
}

describe('pawn diagnose', () => {
  it('tells what is wrong, how sure that is, and what would mend it', async () => {
    const { code, out } = await pawn('--cap', '4', '--episodes', '100', '--runs', '3')
    expect(code).toBe(0)
    expect(out).toContain('1. Episodes are cut off after 4 steps; the shortest way takes 5. (cap, proved')
    expect(out).toContain('Let episodes take up to')
    expect(out).toContain('Tried: in the mean of 3 runs')
  })

  it('takes settings from a file, and prints the same as JSON with states by name', async () => {
    const settings = ['--settings', join(folder, 'settings.json'), '--exploration', '0', '--episodes', '60']
    const { out } = await pawn(...settings, '--runs', '4', '--json')
    const report = JSON.parse(out) as {
      findings: { rule: string; states: string[]; proof: object }[]
      runs: number
    }
    const ties = report.findings.find(({ rule }) => rule === 'ties')!
    expect(ties.proof).toEqual({ kind: 'seeds', seen: 4, of: 4 })
    expect(report.findings.flatMap(({ states }) => states)).toContain('A1')
  })

  it('refuses nonsense with the place', async () => {
    expect(await pawn('--runs', '0')).toMatchObject({ code: 2, err: expect.stringContaining('--runs') })
    expect(await pawn('--method', 'td-lambda')).toMatchObject({
      code: 1,
      err: expect.stringContaining('looks for no policy'),
    })
  })
})
