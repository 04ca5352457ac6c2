import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { expect, it } from 'vitest'
import { checkEnvironment } from '../core/environment/document'
import { addView } from '../core/lesson/lesson'
import { newLesson } from '../core/lesson/lesson-document'
import { checkScene } from '../core/lesson/read-lesson'

/** The command as a shell runs it, from a folder of the caller's. */
function shell(line: string, folder: string) {
  const pawn = `node "${resolve('scripts/pawn.mjs')}"`
  return spawnSync('bash', ['-c', `set -o pipefail; ${line.replaceAll('pawn', pawn)}`], {
    cwd: folder,
    encoding: 'utf8',
  })
}

const DEMO = resolve('demo/evening-tickets.json')

it('reads a pipe, and leaves without a word when its reader leaves', { timeout: 60_000 }, () => {
  const piped = shell(`cat "${DEMO}" | pawn export - --to json | head -1`, tmpdir())
  expect({ out: piped.stdout, err: piped.stderr }).toEqual({
    out: '{\n',
    err: '',
  })
})

it('runs from any folder, and looks for files there', { timeout: 60_000 }, () => {
  const there = shell('pawn check night-rounds.json', join(resolve('.'), 'demo'))
  expect([there.status, there.stderr]).toEqual([0, ''])
  const nowhere = shell('pawn check night-rounds.json', tmpdir())
  expect(nowhere.status).toBe(1)
  expect(nowhere.stdout + nowhere.stderr).toContain(
    'night-rounds.json, file: error, compiles: It cannot be opened.',
  )
})

it('plays many runs in threads, and prints nothing but the result', () => {
  const swept = shell(
    'pawn sweep alarm-beam.json --episodes 20 --runs 4 --vary learning-rate=0.1,0.5 --json',
    join(resolve('.'), 'demo'),
  )
  expect(swept.stderr).toBe('')
  const { cells } = JSON.parse(swept.stdout) as { cells: { runs: number; mean: number }[] }
  expect(cells.map(({ runs }) => runs)).toEqual([4, 4])
  expect(cells.every(({ mean }) => Number.isFinite(mean))).toBe(true)
})

it('makes a page for students of an environment and of a lesson', { timeout: 180_000 }, () => {
  const folder = mkdtempSync(join(tmpdir(), 'pages-'))
  try {
    const document = checkEnvironment(JSON.parse(readFileSync(DEMO, 'utf8')))
    const lesson = addView(
      newLesson('Prices'),
      { title: 'At first', text: 'Which price?', notes: 'Wait.' },
      checkScene({ stage: 'plan' }, document),
      { shelf: null, document },
    )
    writeFileSync(join(folder, 'lesson.json'), JSON.stringify(lesson))
    const made = shell(
      `cat "${DEMO}" | pawn hand-out - -o one.html && pawn hand-out lesson.json -o two.html`,
      folder,
    )
    expect(made.stderr).toMatch(/Written to one\.html: \d\.\d MB\.\nWritten to two\.html/)
    for (const [file, title] of [
      ['one.html', document.name],
      ['two.html', 'At first'],
    ]) {
      const page = readFileSync(join(folder, file), 'utf8')
      const [, given] = /<script id="lesson"[^>]*>(.*?)<\/script>/s.exec(page)!
      expect(JSON.parse(given).views[0]).toMatchObject({ title, notes: '' })
    }
    writeFileSync(join(folder, 'empty.json'), JSON.stringify(newLesson('Empty')))
    const empty = shell('cat empty.json | pawn hand-out -', folder)
    expect([empty.status, empty.stdout]).toEqual([1, ''])
    expect(empty.stderr).toContain('The lesson has no views yet.')
  } finally {
    rmSync(folder, { recursive: true })
  }
})
