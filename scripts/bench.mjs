// The benchmark, bundled first: what runs is plain JavaScript, as in a worker.
import './node-version.mjs'
import { mkdirSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { installPackages } from './install.mjs'

installPackages()
const { buildWorkers } = await import('./workers.mjs')
await buildWorkers()
const { build } = await import('esbuild')
mkdirSync('.tmp', { recursive: true })
await build({
  entryPoints: ['bench/bench.ts'],
  outfile: '.tmp/bench.mjs',
  bundle: true,
  platform: 'node',
  format: 'esm',
  // It looks for files beside itself.
  external: ['piscina'],
  banner: { js: 'import{createRequire}from"node:module";const require=createRequire(import.meta.url);' },
  logLevel: 'error',
})
const { status } = spawnSync(process.execPath, ['.tmp/bench.mjs', ...process.argv.slice(2)], {
  stdio: 'inherit',
})
process.exit(status ?? 1)
