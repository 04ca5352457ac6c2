// The command line: installs what is missing, then runs src/cli in this very process. Works from any folder; the files
// it is given are looked for where it was called.
import './node-version.mjs'
import { dirname, join } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'
import { installPackages } from './install.mjs'

const root = dirname(dirname(fileURLToPath(import.meta.url)))
const here = process.env.npm_lifecycle_event === 'pawn' ? process.env.INIT_CWD : undefined
const called = here ?? process.cwd()
process.chdir(root)
installPackages()
if (['compare', 'sweep'].includes(process.argv[2])) {
  const { buildWorkers } = await import('./workers.mjs')
  await buildWorkers()
}
if (process.argv[2] === 'hand-out') {
  const { buildHandOut } = await import('./hand-out.mjs')
  await buildHandOut()
}
const { register } = await import('tsx/esm/api')
register({ tsconfig: join(root, 'tsconfig.json') })
process.chdir(called)
await import(pathToFileURL(join(root, 'src/cli/pawn.ts')).href)
