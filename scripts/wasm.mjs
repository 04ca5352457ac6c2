// Builds the WebAssembly twins of kernels: AssemblyScript in, a module as base64 in a TypeScript file out, which is
// committed. Run by hand after a change of a source; tests say when a file is out of date.
import { createHash } from 'node:crypto'
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import asc from 'assemblyscript/asc'

const KERNELS = [
  { source: 'src/core/plan/wasm/sweeps.as', target: 'src/core/plan/wasm/sweeps-code.ts', name: 'SWEEPS' },
  {
    source: 'src/core/learn/methods/value/wasm/steps.as',
    target: 'src/core/learn/methods/value/wasm/steps-code.ts',
    name: 'STEPS',
  },
  {
    source: 'src/core/learn/methods/value/wasm/lean-steps.as',
    target: 'src/core/learn/methods/value/wasm/lean-steps-code.ts',
    name: 'LEAN_STEPS',
  },
  {
    source: 'src/core/learn/methods/value/wasm/double-steps.as',
    target: 'src/core/learn/methods/value/wasm/double-steps-code.ts',
    name: 'DOUBLE_STEPS',
  },
  {
    source: 'src/core/learn/methods/policy/wasm/episodes.as',
    target: 'src/core/learn/methods/policy/wasm/episodes-code.ts',
    name: 'EPISODES',
  },
  {
    source: 'src/core/learn/methods/traces/wasm/trace-steps.as',
    target: 'src/core/learn/methods/traces/wasm/trace-steps-code.ts',
    name: 'TRACE_STEPS',
  },
  {
    source: 'src/core/learn/methods/prediction/wasm/td-steps.as',
    target: 'src/core/learn/methods/prediction/wasm/td-steps-code.ts',
    name: 'TD_STEPS',
  },
  { source: 'src/core/compare/wasm/pulls.as', target: 'src/core/compare/wasm/pulls-code.ts', name: 'PULLS' },
]

mkdirSync('.tmp', { recursive: true })
for (const { source, target, name } of KERNELS) {
  // The compiler knows its files by the ending .ts, which here would be taken for TypeScript.
  copyFileSync(source, '.tmp/kernel.ts')
  const { error, stderr } = await asc.main([
    '.tmp/kernel.ts',
    ...['--outFile', '.tmp/kernel.wasm'],
    // Constants lie below the registers of core/wasm/room.ts.
    ...['--memoryBase', '64'],
    ...['-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd', '--importMemory'],
  ])
  if (error) {
    console.error(`${source}: ${stderr.toString()}`)
    process.exit(1)
  }
  const hash = createHash('sha256').update(readFileSync(source)).digest('hex').slice(0, 16)
  writeFileSync(
    target,
    `/** The module that scripts/wasm.mjs built from ${source.split('/').at(-1)}, as base64. */
export const ${name}_CODE =
  '${readFileSync('.tmp/kernel.wasm').toString('base64')}'
/** A hash of the source it was built from. */
export const ${name}_SOURCE = '${hash}'
`,
  )
}
