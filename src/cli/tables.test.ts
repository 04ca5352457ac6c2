import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { unzipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readNpy } from '../core/formats/npy'
import { runCommandLine } from './main'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'tables-'))
  // v(b) = 2 + 0.9 v(a), v(a) = 0.5 (1 + 0.9 v(b)): v(a) = 1.4 / 0.595.
  writeFileSync(
    join(folder, 'list.csv'),
    'state,action,next_state,probability,reward\na,go,b,0.5,1\na,go,end,0.5,0\nb,back,a,1,2\n',
  )
})
afterAll(() => rmSync(folder, { recursive: true }))

async function pawn(...args: string[]) {
  const out: (string | Uint8Array)[] = []
  let err = ''
  const code = await runCommandLine(args, {
    out: (data) => void out.push(data),
    err: (text) => (err += text),
  })
  return { code, out, err }
}
const list = () => join(folder, 'list.csv')
const VALUE = 1.4 / 0.595

describe('a table in place of the answer', () => {
  it('of a plan: values as CSV and .npy', async () => {
    const { code, out } = await pawn('plan', list(), '--discount', '0.9', '--to', 'values.csv')
    expect(code).toBe(0)
    const lines = String(out[0]).trim().split('\r\n')
    expect(lines[0]).toBe('state,value')
    expect(Number(lines[1].split(',')[1])).toBeCloseTo(VALUE, 8)
    expect(lines[2]).toMatch(/^b,/)
    const binary = await pawn('plan', list(), '--discount', '0.9', '--to', 'values.npy', '-o', '-')
    const { values, shape } = readNpy(binary.out[0] as Uint8Array, 'values.npy')
    expect(shape).toEqual([3])
    expect(values[0]).toBeCloseTo(VALUE, 8)
  })

  it('of an evaluation: action values, when the policy is followed from then on', async () => {
    const { out } = await pawn(
      ...['evaluate', list(), '--policy', 'random', '--discount', '0.9', '--to', 'action-values.csv'],
    )
    const [, first] = String(out[0]).split('\r\n')
    expect(first).toMatch(/^a,go,/)
    expect(Number(first.split(',')[2])).toBeCloseTo(VALUE, 8)
  })

  it('of a run: everything for a notebook, into a file', async () => {
    const path = join(folder, 'run.npz')
    const { code, out } = await pawn(
      ...['learn', list(), '--method', 'q-learning', '--episodes', '500', '--discount', '0.9'],
      ...['--to', 'numbers.npz', '--out', path],
    )
    expect({ code, out }).toEqual({ code: 0, out: [] })
    const files = unzipSync(readFileSync(path))
    const table = readNpy(files['action_values.npy'], 'action_values.npy')
    expect(table.shape).toEqual([3, 2])
    // Learned, not computed: near it.
    expect(Math.abs(table.values[0] - VALUE)).toBeLessThan(0.5)
    expect(readNpy(files['discount.npy'], 'discount.npy').values[0]).toBe(0.9)
  })

  it('is refused where it does not exist, or cannot be written', async () => {
    const wrong = await pawn('plan', list(), '--to', 'values.xls')
    expect(wrong.code).toBe(2)
    expect(wrong.err).toContain('numbers.npz')
    const nowhere = await pawn('plan', list(), '--to', 'values.csv', '-o', join(folder, 'no', 'values.csv'))
    expect(nowhere).toMatchObject({ code: 1, out: [] })
    expect(nowhere.err).toContain('It cannot be written.')
  })
})
