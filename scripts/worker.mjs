// npm run worker: takes chunks of jobs from the queue that JAUNTY_PAWN_QUEUE names, on every core of this machine.
import './node-version.mjs'
import { dirname, join } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'
import { installPackages } from './install.mjs'

const root = dirname(dirname(fileURLToPath(import.meta.url)))
process.chdir(root)
const queue = process.env.JAUNTY_PAWN_QUEUE
if (!queue) {
  console.error('Set JAUNTY_PAWN_QUEUE=redis://HOST:6379, as the server has it. See docs/scaling.md.')
  process.exit(2)
}
installPackages()
const { buildWorkers } = await import('./workers.mjs')
const file = await buildWorkers()
const { register } = await import('tsx/esm/api')
register({ tsconfig: join(root, 'tsconfig.json') })
const { work } = await import(pathToFileURL(join(root, 'src/server/jobs/worker.ts')).href)
try {
  const reason = await work(queue, file, (text) => console.log(text))
  if (reason) console.error(reason)
  process.exit(reason ? 1 : 0)
} catch (error) {
  console.error(error.message)
  process.exit(1)
}
