// Bundles what runs in threads of Node into .workers/, unless it is there already, made from the same sources.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)))
const FOLDER = join(ROOT, '.workers')
const STAMP = join(FOLDER, '.built-from')

/** Builds runs.mjs and documents.mjs, from the workers of these names in src/hosts/node. @returns the file of runs.mjs */
export async function buildWorkers() {
  const file = join(FOLDER, 'runs.mjs')
  const hash = createHash('sha256')
  for (const source of ['src/core', 'src/hosts/node', 'package-lock.json'])
    addToHash(hash, join(ROOT, source))
  const digest = hash.digest('hex')
  if (
    existsSync(file) &&
    existsSync(join(FOLDER, 'documents.mjs')) &&
    existsSync(STAMP) &&
    readFileSync(STAMP, 'utf8') === digest
  )
    return file
  const { build } = await import('esbuild')
  await build({
    absWorkingDir: ROOT,
    entryPoints: { runs: 'src/hosts/node/runs.worker.ts', documents: 'src/hosts/node/documents.worker.ts' },
    outdir: FOLDER,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    minify: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    // Joi asks for modules of Node by require.
    banner: { js: 'import{createRequire}from"node:module";const require=createRequire(import.meta.url);' },
    logLevel: 'error',
  })
  mkdirSync(FOLDER, { recursive: true })
  writeFileSync(STAMP, digest)
  return file
}

function addToHash(hash, path) {
  let entries
  try {
    entries = readdirSync(path).sort()
  } catch {
    if (!path.endsWith('.test.ts')) hash.update(path.slice(ROOT.length)).update(readFileSync(path))
    return
  }
  for (const entry of entries) addToHash(hash, join(path, entry))
}
