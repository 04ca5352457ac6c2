import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { EnvironmentDocument } from '../core/kinds/kinds'
import { EXPORT_IDS, exportsOf, LATE_EXPORT_IDS, lateExportsOf } from '../core/formats/exports'
import { LEARN_METHOD_IDS } from '../core/learn/methods/methods'
import { runCommandLine } from './main'

const SHELF = join(import.meta.dirname, '../../demo')
const DEMOS = readdirSync(SHELF).filter((name) => name.endsWith('.json'))
/** How a file of each form that is read again must end. */
const READ_AGAIN = { json: 'json', rules: 'rules', map: 'txt', cells: 'csv', csv: 'csv' } as const

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'pawn-demos-'))
})
afterAll(() => rmSync(folder, { recursive: true }))

async function pawn(...args: string[]) {
  let out = ''
  let err = ''
  const code = await runCommandLine(args, { out: (text) => (out += text), err: (text) => (err += text) })
  return { code, out, err }
}

async function answer(...args: string[]): Promise<Record<string, unknown>> {
  const { code, out, err } = await pawn(...args, '--json')
  expect(code, err).toBe(0)
  expect(out).not.toMatch(/NaN|Infinity|undefined/)
  return JSON.parse(out) as Record<string, unknown>
}

function demo(name: string): { path: string; document: EnvironmentDocument } {
  const path = join(SHELF, name)
  return { path, document: JSON.parse(readFileSync(path, 'utf8')) as EnvironmentDocument }
}

describe.each(DEMOS)('%s on the command line', (name) => {
  const { path, document } = demo(name)

  it('is planned as well as any policy does, and as well as its own plan evaluates', async () => {
    const plan = await answer('plan', path)
    const best = plan.startValue as number
    const size = Math.max(1, Math.abs(best))
    const states = plan.states as string[]
    expect(Object.keys(plan.values as object).length).toBe(states.length)

    const file = join(folder, `${name}-plan.json`)
    writeFileSync(file, JSON.stringify(plan))
    const own = await answer('evaluate', path, '--policy', file)
    // Where states look alike to the agent, the plan still tells them apart: it is what could be had with open eyes.
    expect(Math.abs((own.startValue as number) - best)).toBeLessThan(1e-6 * size)

    for (const policy of ['random', 'first']) {
      const { code, out, err } = await pawn('evaluate', path, '--policy', policy, '--json')
      // The first action of every state may go round for ever; then the command says so.
      if (code === 1) expect(err).toMatch(/no finite value at the start: it may never end, from /)
      else expect(JSON.parse(out).startValue).toBeLessThanOrEqual(best + 1e-6 * size)
    }
  })

  it('exports what plans to the same value, or says what is lost', async () => {
    const best = (await answer('plan', path)).startValue as number
    for (const id of [...EXPORT_IDS, ...LATE_EXPORT_IDS]) {
      const exported = await pawn('export', path, '--to', id)
      if ([...exportsOf(document), ...lateExportsOf(document)].every((form) => form.id !== id)) {
        expect(exported.code).toBe(1)
        expect(exported.err).toMatch(/--to: This is a \w+, which cannot be written as/)
        continue
      }
      if (id === 'dot' && exported.code === 1) {
        expect(exported.err).toMatch(/has \d+ outcomes; a graph is written up to 20000/)
        continue
      }
      expect(exported.code, exported.err).toBe(0)
      expect(exported.out).not.toMatch(/NaN|Infinity|undefined|\[object/)
      expect(exported.out.endsWith('\n')).toBe(true)
      if (!(id in READ_AGAIN)) continue
      const copy = join(folder, `${name}-${id}.${READ_AGAIN[id as keyof typeof READ_AGAIN]}`)
      writeFileSync(copy, exported.out)
      const told = /The discount .* is taken/.test(exported.err)
      // The discount is said again where the file could not keep it.
      const again = await answer('plan', copy, ...(told ? ['--discount', String(document.discount)] : []))
      const lost = exported.err.replaceAll(/^note: (The discount|The step limit|Not in it).*$/gm, '').trim()
      if (!lost) expect(again.startValue, `${id}: ${exported.err}`).toBeCloseTo(best, 8)
      else expect(lost).toMatch(/^note: /)
    }
  })

  it('is learned by every method without a number that is none', async () => {
    for (const method of LEARN_METHOD_IDS) {
      const learned = await answer('learn', path, '--method', method, '--episodes', '12', '--cap', '40')
      expect(learned.episodes).toBe(12)
      expect(learned.cutOff).toBeLessThanOrEqual(12)
      const { mean } = learned.returns as { mean: number[] }
      for (const each of mean) expect(Number.isFinite(each)).toBe(true)
    }
  })
})

it('every form that is read again is tried', () => {
  const losing = DEMOS.flatMap((name) =>
    exportsOf(demo(name).document).flatMap(({ id, losses }) => (losses ? [id] : [])),
  )
  expect(Object.keys(READ_AGAIN)).toEqual(expect.arrayContaining(losing))
})
