// Everything that has to hold: format, lint, types, layers, unused code, unit tests, build, end-to-end tests.
// Counts every gate and every test; the last line is the sum.
import './node-version.mjs'
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { buildIfStale } from './build.mjs'
import { installPackages } from './install.mjs'

const CHROMIUM = '/usr/bin/chromium'
const REDIS = '/usr/bin/redis-server'
let passed = 0
let failed = 0

installPackages()
installFromDebian('chromium', CHROMIUM)
installFromDebian('redis-server', REDIS)
rmSync('test-results', { recursive: true, force: true })
mkdirSync('test-results', { recursive: true })

gate('format', 'prettier', ['--check', '--log-level', 'warn', '.'])
gate('lint', 'eslint', ['--max-warnings', '0', '.'])
gate('types (next)', 'next', ['typegen'])
gate('types', 'tsc', ['--noEmit'])
gate('types of the core alone', 'tsc', ['--noEmit', '--project', 'src/core/tsconfig.json'])
gate('layers', 'depcruise', ['--config', '.dependency-cruiser.cjs', 'src'])
gate('unused code', 'knip', ['--no-progress'])
tests(
  'unit tests',
  'vitest',
  ['run', '--reporter=default', '--reporter=json', '--outputFile.json=test-results/vitest.json'],
  () => {
    const { numPassedTests, numFailedTests, success } = report('test-results/vitest.json')
    // A file that does not load fails no test of its own.
    return [numPassedTests, Math.max(numFailedTests, success ? 0 : 1)]
  },
)
buildIfStale()
count('build', true)
tests('end-to-end tests', 'playwright', ['test'], () => {
  const { expected, unexpected, flaky } = report('test-results/playwright.json').stats
  return [expected, unexpected + flaky]
})

const summary = `${passed} passed, ${failed} failed`
writeFileSync('test-results/summary.txt', `${summary}\n`)
console.log(summary)
process.exit(failed > 0 || passed === 0 ? 1 : 0)

/** A check that passes or fails as a whole. */
function gate(title, tool, args) {
  console.log(`\n== ${title}`)
  count(title, start(tool, args) === 0)
}

/** A test runner that counts for itself. */
function tests(title, tool, args, read) {
  console.log(`\n== ${title}`)
  const status = start(tool, args)
  try {
    const [good, bad] = read()
    passed += good
    failed += bad
    if (status !== 0 && bad === 0) count(`${title} as a whole`, false)
  } catch (error) {
    console.error(error.message)
    count(title, false)
  }
}

function start(tool, args) {
  return spawnSync(`node_modules/.bin/${tool}`, args, {
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  }).status
}

function count(title, good) {
  if (good) passed++
  else {
    failed++
    console.error(`FAILED: ${title}`)
  }
}

function report(path) {
  return JSON.parse(readFileSync(path, 'utf8'))
}

/** What the end-to-end tests need besides: the browser, and the store of the queue. @param file  where the package puts it */
function installFromDebian(name, file) {
  if (existsSync(file)) return
  console.error(`Installing ${name} …`)
  const apt = process.getuid?.() === 0 ? ['apt-get'] : ['sudo', 'apt-get']
  for (const args of [
    ['update', '-qq'],
    ['install', '-y', '-qq', '--no-install-recommends', name],
  ])
    spawnSync(apt[0], [...apt.slice(1), ...args], {
      stdio: ['ignore', 2, 2],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    })
  if (!existsSync(file)) {
    console.error(`${name} could not be installed: apt-get install ${name}`)
    process.exit(1)
  }
}
