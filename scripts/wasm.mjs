// Builds the WebAssembly twins of kernels: AssemblyScript in, a module as base64 in a TypeScript file out, which is
// committed. Run by hand after a change of a source; a test says when a file is out of date.
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import asc from 'assemblyscript/asc'

/** The compiler knows its files by the ending .ts, which here would be taken for TypeScript. */
const named = (source) => source.replace(/\.as$/, '.ts')

for (const { source, target, name } of JSON.parse(readFileSync('src/core/wasm/kernels.json', 'utf8'))) {
  const read = []
  let built
  const { error, stderr } = await asc.main(
    [
      named(source),
      ...['--outFile', 'kernel.wasm'],
      // Constants lie below the registers of core/wasm/room.ts.
      ...['--memoryBase', '64'],
      ...['-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd', '--importMemory'],
    ],
    {
      readFile(file, folder) {
        const path = join(folder, file.replace(/\.ts$/, '.as'))
        if (!existsSync(path)) return null
        const text = readFileSync(path, 'utf8')
        read.push(text)
        return text
      },
      writeFile: (_, contents) => void (built = contents),
    },
  )
  if (error) {
    console.error(`${source}: ${stderr.toString()}`)
    process.exit(1)
  }
  const hash = createHash('sha256').update(read.join('')).digest('hex').slice(0, 16)
  writeFileSync(
    target,
    `/** The module that scripts/wasm.mjs built from ${source.split('/').at(-1)}, as base64; ${hash} is a hash of its sources. */
export const ${name}_CODE =
  '${Buffer.from(built).toString('base64')}'
`,
  )
}
