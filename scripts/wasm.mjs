// Builds the WebAssembly twin of the sweeps: AssemblyScript in, a module as base64 in a TypeScript file out, which is
// committed. Run by hand after a change of the source; a test says when the file is out of date.
import { createHash } from 'node:crypto'
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import asc from 'assemblyscript/asc'

const SOURCE = 'src/core/plan/wasm/sweeps.as'
const TARGET = 'src/core/plan/wasm/sweeps-code.ts'

mkdirSync('.tmp', { recursive: true })
// The compiler knows its files by the ending .ts, which here would be taken for TypeScript.
copyFileSync(SOURCE, '.tmp/sweeps.ts')
const { error, stderr } = await asc.main([
  '.tmp/sweeps.ts',
  ...['--outFile', '.tmp/sweeps.wasm'],
  ...['-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd', '--importMemory'],
])
if (error) {
  console.error(stderr.toString())
  process.exit(1)
}
const source = createHash('sha256').update(readFileSync(SOURCE)).digest('hex').slice(0, 16)
writeFileSync(
  TARGET,
  `/** The module that scripts/wasm.mjs built from sweeps.as, as base64. */
export const SWEEPS_CODE =
  '${readFileSync('.tmp/sweeps.wasm').toString('base64')}'
/** A hash of the source it was built from. */
export const SWEEPS_SOURCE = '${source}'
`,
)
