// The benchmark, or `growth` and how its cost grows; bundled first: what runs is plain JavaScript, as in a worker.
import './node-version.mjs'
import { mkdirSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { installPackages } from './install.mjs'

installPackages()
const { buildWorkers } = await import('./workers.mjs')
await buildWorkers()
const [, , first, ...rest] = process.argv
const [entry, args] = first === 'growth' ? ['growth', rest] : ['bench', process.argv.slice(2)]
const { build } = await import('esbuild')
mkdirSync('.tmp', { recursive: true })
await build({
  entryPoints: [`bench/${entry}.ts`],
  outfile: `.tmp/${entry}.mjs`,
  bundle: true,
  platform: 'node',
  format: 'esm',
  // It looks for files beside itself.
  external: ['piscina'],
  banner: { js: 'import{createRequire}from"node:module";const require=createRequire(import.meta.url);' },
  logLevel: 'error',
})
const { status } = spawnSync(process.execPath, [`.tmp/${entry}.mjs`, ...args], {
  stdio: 'inherit',
})
process.exit(status ?? 1)
