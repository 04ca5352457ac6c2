import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rulebookEnvironment } from '../core/kinds/rulebook/blank'
import { runCommandLine } from './main'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'scores-'))
  const environment = rulebookEnvironment(
    'Prize',
    'knob prize = 10 from 0 to 20\nstate place from 0 to 1\nstart place = 0\naction take\naction leave\nreward if action = take then prize else 1\nnext place = 1\nend when place = 1\n',
  )
  const exercise = {
    ...{ format: 'jaunty-pawn/exercise', version: 1, name: 'Prizes', environment, episodes: 20 },
    levels: [
      { name: 'ten', points: 2 },
      { name: 'four', knobs: { prize: 4 }, points: 3 },
    ],
  }
  write('exercise.json', JSON.stringify(exercise))
  write('secret.json', JSON.stringify({ ...exercise, seeds: { open: 1, hidden: 77 } }))
  write('take.csv', 'state,action\nplace 0,take\n')
  write('leave.txt', 'policy "mine": leave')
  write('late.csv', 'state,action\nplace 0,run\n')
})
afterAll(() => rmSync(folder, { recursive: true }))

const write = (name: string, text: string) => writeFileSync(join(folder, name), text)

async function score(...args: string[]) {
  let out = ''
  let err = ''
  const places = args.map((each) => (each.startsWith('-') ? each : join(folder, each)))
  const code = await runCommandLine(['score', ...places], {
    out: (data) => void (out += String(data)),
    err: (text) => (err += text),
  })
  return { code, out, err }
}

describe('pawn score', () => {
  it('holds a hand-in against a random agent and what is possible', async () => {
    expect(await score('exercise.json', 'take.csv')).toEqual({
      code: 0,
      err: '',
      out: `ten: 10 on average over 20 episodes, 95 % from 10 to 10; a random agent 5.5, possible 10: 100 % of what is possible, 2 of 2 points.
four: 4 on average over 20 episodes, 95 % from 4 to 4; a random agent 2.5, possible 4: 100 % of what is possible, 3 of 3 points.
5 of 5 points, played with seed 1.
`,
    })
    const { out } = await score('exercise.json', 'leave.txt')
    expect(out).toContain('worse than random, 0 of 2 points.')
  })

  it('plays the hidden seed when it is asked for, and prints JSON', async () => {
    const { out } = await score('secret.json', 'take.csv', '--hidden', '--json')
    expect(JSON.parse(out)).toMatchObject({
      seed: 77,
      points: 5,
      of: 5,
      levels: [{ level: 'ten' }, { level: 'four' }],
    })
    const none = await score('exercise.json', 'take.csv', '--hidden')
    expect([none.code, none.err]).toEqual([1, expect.stringContaining('The exercise has no hidden seed.')])
  })

  it('names the file, the level and the place of what does not fit', async () => {
    const { code, out, err } = await score('exercise.json', 'late.csv')
    expect([code, out]).toEqual([1, ''])
    expect(err).toContain(
      'late.csv, ten, policy, state "place 0": It has no action "run". Use one of take, leave.',
    )
  })
})
