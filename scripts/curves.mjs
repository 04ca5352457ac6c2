// Draws the figures of docs/methods.md again from our own learners, into docs/curves. Run by hand after a change.
import { mkdirSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { build } from 'esbuild'

mkdirSync('.tmp', { recursive: true })
await build({
  entryPoints: ['bench/curves.ts'],
  outfile: '.tmp/curves.cjs',
  bundle: true,
  platform: 'node',
  format: 'cjs',
  logLevel: 'error',
})
process.exit(spawnSync(process.execPath, ['.tmp/curves.cjs'], { stdio: 'inherit' }).status ?? 1)
