// Builds, and puts all that serving needs into a folder of its own, which needs no installation and a fraction of the
// space.
import './node-version.mjs'
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { buildIfStale } from './build.mjs'
import { installPackages } from './install.mjs'
import { buildHandOut } from './hand-out.mjs'
import { buildWorkers } from './workers.mjs'

const FOLDER = 'release'
/** The command line as one file: in the release there is nothing that could translate its sources. */
const COMMAND_LINE = '.workers/cli/pawn.mjs'
/** What is read by name, and by no module. */
const WHOLE = ['.next/static', 'drizzle', '.workers', 'next.config.mjs', 'LICENSE', 'docs/running.md']
/** What serving never uses, though a module names it: pictures are not scaled, and nobody builds or debugs there. */
const UNUSED =
  /^node_modules\/(@img|sharp|typescript|next\/dist\/compiled\/(webpack|babel|babel-packages|next-devtools))\/|\.dev\.js$|\.map$/

installPackages()
buildIfStale()
await buildWorkers()
await buildHandOut()
await buildCommandLine()
rmSync(FOLDER, { recursive: true, force: true })
for (const file of await usedFiles()) copy(file)
for (const entry of readdirSync('.next', { withFileTypes: true }))
  if (entry.isFile() && !entry.name.startsWith('trace')) copy(`.next/${entry.name}`)
for (const path of WHOLE) copy(path)
const { name, version, license, type, engines } = JSON.parse(readFileSync('package.json', 'utf8'))
const scripts = {
  serve: 'node scripts/serve.mjs',
  start: 'node scripts/serve.mjs',
  pawn: `node ${COMMAND_LINE}`,
}
writeFileSync(
  join(FOLDER, 'package.json'),
  JSON.stringify({ name, version, license, type, engines, private: true, scripts }, null, 2) + '\n',
)
console.error(`All that serving needs is in the folder ${FOLDER}: npm run serve, there or here.`)

function copy(path) {
  mkdirSync(join(FOLDER, dirname(path)), { recursive: true })
  cpSync(path, join(FOLDER, path), { recursive: true, dereference: true })
}

/** The files that the server, the command line and the pages ask for, as paths from here. */
async function usedFiles() {
  const { nodeFileTrace } = await import('@vercel/nft')
  const { fileList } = await nodeFileTrace(['scripts/serve.mjs', COMMAND_LINE], {
    base: process.cwd(),
    // Not read either, which would take longer than all the rest.
    ignore: (path) => UNUSED.test(path),
  })
  const files = new Set(fileList)
  // The build has told for each page.
  for (const entry of readdirSync('.next', { recursive: true, withFileTypes: true })) {
    if (!entry.name.endsWith('.nft.json')) continue
    const trace = join(entry.parentPath, entry.name)
    for (const file of JSON.parse(readFileSync(trace, 'utf8')).files)
      files.add(relative(process.cwd(), resolve(dirname(trace), file)))
  }
  for (const entry of readdirSync('.next/server', { recursive: true, withFileTypes: true }))
    if (entry.isFile() && !/\.(map|nft\.json)$/.test(entry.name))
      files.add(join(entry.parentPath, entry.name))
  return [...files].filter((file) => !UNUSED.test(file) && existsSync(file))
}

async function buildCommandLine() {
  const { build } = await import('esbuild')
  await build({
    entryPoints: ['src/cli/pawn.ts'],
    outfile: COMMAND_LINE,
    bundle: true,
    packages: 'external',
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'error',
  })
}
