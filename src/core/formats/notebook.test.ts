import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { unzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { checkEnvironment } from '../environment/document'
import { actionValues, backupForm } from '../plan/backup'
import { solveOptimum } from '../plan/solve'
import { writeNotebook } from './notebook'
import { writeNpz } from './npz'

const python = (...lines: string[]) => spawnSync('python3', ['-c', lines.join('\n')], { encoding: 'utf8' })
const numpy = python('import numpy').status === 0
const matplotlib = python('import matplotlib').status === 0

interface Cell {
  readonly cell_type: string
  readonly source: readonly string[]
}

function files(name: string, discount?: number) {
  const document = checkEnvironment(JSON.parse(readFileSync(`demo/${name}.json`, 'utf8')))
  const { model } = compileEnvironment(document)
  const sight = discount ?? document.discount
  const { values, policy } = solveOptimum(model, sight)!
  const rowValues = actionValues(backupForm(model, sight), values)
  const curve = { episode: Float64Array.of(1, 2, 3), mean: Float64Array.of(1, 2.5, -3) }
  const npz = writeNpz(model, { discount: sight, values, rowValues, policy, curve })
  return {
    model,
    values,
    npz,
    notebook: writeNotebook(document).replace(/np\.load\([^)]*\)/, 'np.load(\\"numbers.npz\\")'),
  }
}

/** Runs something in a folder that holds the file; gives what it prints. */
function run(npz: Uint8Array, text: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'notebook-'))
  try {
    writeFileSync(join(folder, 'numbers.npz'), npz)
    return execFileSync('python3', ['-c', text], {
      cwd: folder,
      encoding: 'utf8',
      env: { ...process.env, MPLBACKEND: 'Agg' },
    })
  } finally {
    rmSync(folder, { recursive: true })
  }
}

it('has a file for each array, the same bytes for the same numbers', () => {
  const { npz } = files('night-rounds')
  const names = Object.keys(unzipSync(npz))
  expect(names).toContain('outcome_probability.npy')
  expect(names.every((name) => /^[a-z_]+\.npy$/.test(name))).toBe(true)
  expect(files('night-rounds').npz).toEqual(npz)
})

it('is a notebook of version 4.5, with an id for each cell', () => {
  const notebook = JSON.parse(files('night-rounds').notebook) as {
    nbformat: number
    nbformat_minor: number
    cells: (Cell & { id: string })[]
  }
  expect(notebook).toMatchObject({ nbformat: 4, nbformat_minor: 5 })
  expect(new Set(notebook.cells.map(({ id }) => id)).size).toBe(notebook.cells.length)
  expect(notebook.cells.every(({ id }) => /^[a-zA-Z0-9-_]+$/.test(id))).toBe(true)
})

// Without numpy on this machine there is nothing to read it with.
describe.skipIf(!numpy)('read by numpy', () => {
  it('has the names, shapes and numbers of the model', () => {
    const { model, values, npz } = files('docents-round')
    const told = JSON.parse(
      run(
        npz,
        [
          'import json, numpy as np',
          'a = np.load("numbers.npz")',
          'print(json.dumps({"states": a["states"].tolist(), "actions": a["actions"].tolist(), "values": a["values"].tolist(),',
          '  "sum": np.bincount(a["outcome_row"], weights=a["outcome_probability"]).tolist(), "policy": list(a["policy"].shape),',
          '  "next": a["outcome_state"].tolist(), "curve": a["curve_return"].tolist()}))',
        ].join('\n'),
      ),
    ) as Record<string, unknown>
    expect(told).toMatchObject({
      states: [...model.labels],
      actions: [...model.actions],
      values: [...values],
      policy: [model.states, model.actions.length],
      next: [...model.outcomeState],
      curve: [1, 2.5, -3],
    })
    for (const sum of told.sum as number[]) expect(sum).toBeCloseTo(1, 12)
  })

  it.each(['night-rounds', 'cloakroom-queue', 'which-poster', 'docents-round', 'evening-tickets'])(
    'the cells of the notebook come to the same values: %s',
    (name) => {
      const { npz, notebook } = files(name)
      const cells = (JSON.parse(notebook) as { cells: Cell[] }).cells
        .filter(({ cell_type }) => cell_type === 'code')
        .map(({ source }) => source.join(''))
        .filter((text) => matplotlib || !text.includes('matplotlib'))
      const printed = run(npz, cells.join('\n\n'))
      expect(Number(/largest difference to the values in the file: (\S+)/.exec(printed)![1])).toBeLessThan(
        1e-8,
      )
    },
  )
})
