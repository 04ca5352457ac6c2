// Measures a learner of the product and its C++ twin in turn, so that a noisy machine tells the same of both.
//   node bench/peer/beside.mjs METHOD [ROUNDS] [SIDE]
// Prints both rates and the median of their ratios, with the lowest and the highest.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const [method, rounds = '7', side = '64'] = process.argv.slice(2)
if (!method) {
  console.error('Usage: node bench/peer/beside.mjs METHOD [ROUNDS] [SIDE]')
  process.exit(2)
}
/** Steps of a round of the twin, so that one takes about half a second. */
const STEPS = {
  'dyna-q': 1e6,
  'sarsa-lambda': 2e6,
  'td-lambda': 4e6,
  'q-lambda': 6e6,
  reinforce: 8e6,
  'actor-critic': 8e6,
}
const folder = mkdtempSync(join(tmpdir(), 'jaunty-pawn-peer-'))
try {
  const twin = method === 'reinforce' ? 'reinforce' : 'learners'
  const program = join(folder, twin)
  const options = ['-O3', '-march=native', '-std=c++17', '-o', program]
  execFileSync('g++', [...options, join(import.meta.dirname, `${twin}.cpp`)])
  const steps = String(STEPS[method] ?? 2e7)
  const theirs = () =>
    JSON.parse(execFileSync(program, [...(twin === 'reinforce' ? [] : [method]), steps, side])).rate
  const ours = () => {
    const asked = ['--kernel', method, '--model', 'grid', '--states', String(side ** 2)]
    const told = execFileSync(
      'npm',
      ['run', '--silent', 'bench', '--', ...asked, '--rounds', '5', '--json'],
      {
        encoding: 'utf8',
        stdio: ['ignore', 'pipe', 'ignore'],
      },
    )
    return JSON.parse(told.trim().split('\n').at(-1)).rate
  }
  const pairs = Array.from({ length: Number(rounds) }, () => [ours(), theirs()])
  const sorted = (values) => values.toSorted((a, b) => a - b)
  const median = (values) => sorted(values)[values.length >> 1]
  const ratios = sorted(pairs.map(([one, other]) => one / other))
  const millions = (column) => (median(pairs.map((pair) => pair[column])) / 1e6).toPrecision(3)
  console.log(
    `${method}: ours ${millions(0)}, C++ ${millions(1)} million steps a second, ratio ${median(ratios).toFixed(2)} (${ratios[0].toFixed(2)} to ${ratios.at(-1).toFixed(2)})`,
  )
} finally {
  rmSync(folder, { recursive: true })
}
