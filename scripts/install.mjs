import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'

const STAMP = 'node_modules/.installed'

/** Installs the locked packages when they are missing or the lock has changed; says so on stderr. */
export function installPackages() {
  const lock = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex')
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === lock) return
  console.error('Installing packages …')
  // Not `npm ci`: it insists on packages for other systems, which a closed registry may not serve.
  run('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'])
  writeFileSync(STAMP, lock)
}

/** Runs a command with its output on stderr; ends this process when it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: ['ignore', 2, 2], ...options })
  if (result.error) console.error(`${command} could not be run: ${result.error.message}`)
  if (result.status !== 0) process.exit(result.status ?? 1)
}
