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
  const install = ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error']
  // Without a network there may still be everything in the cache; to wait for minutes helps nobody.
  if (isReachable()) run('npm', install)
  else if (spawnSync('npm', [...install, '--offline'], { stdio: 'ignore' }).status !== 0) {
    console.error(
      'The packages cannot be installed: the package registry does not answer. Connect to the network and start again.',
    )
    process.exit(1)
  }
  writeFileSync(STAMP, lock)
}

/** Whether the registry that npm is set up for answers within some seconds. */
function isReachable() {
  const asked = ['view', 'next', 'name', '--fetch-retries=0', '--fetch-timeout=8000', '--loglevel=silent']
  return spawnSync('npm', asked, { stdio: 'ignore', timeout: 12_000 }).status === 0
}

/** Runs a command with its output on stderr; ends this process when it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: ['ignore', 2, 2], ...options })
  if (result.error) console.error(`${command} could not be run: ${result.error.message}`)
  if (result.status !== 0) process.exit(result.status ?? 1)
}
