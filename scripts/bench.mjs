// The benchmark, bundled first: what runs is plain JavaScript, as in a worker.
import { mkdirSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { installPackages } from './install.mjs'

installPackages()
const { build } = await import('esbuild')
mkdirSync('.tmp', { recursive: true })
await build({
  entryPoints: ['bench/bench.ts'],
  outfile: '.tmp/bench.cjs',
  bundle: true,
  platform: 'node',
  format: 'cjs',
  logLevel: 'error',
})
const { status } = spawnSync(process.execPath, ['.tmp/bench.cjs', ...process.argv.slice(2)], {
  stdio: 'inherit',
})
process.exit(status ?? 1)
