// Installs what is missing, builds when the build is older than the sources, and serves the application.
import { createServer } from 'node:http'
import { buildIfStale } from './build.mjs'
import { installPackages } from './install.mjs'
import { buildWorkers } from './workers.mjs'

installPackages()
buildIfStale()
await buildWorkers()
process.env.NODE_ENV = 'production'
process.env.NEXT_TELEMETRY_DISABLED = '1'
const { default: next } = await import('next')

// Only this machine, unless HOST says otherwise (0.0.0.0 for a whole class): there is no access control yet.
const HOST = process.env.HOST || '127.0.0.1'

const server = createServer((request, response) => answer(request, response))
const port = await listen(server, Number(process.env.PORT) || 3000)
// In this very process, and on the port that is held already: a second start takes no longer than it must.
const app = next({ dev: false, port })
const prepared = app.prepare().then(() => app.getRequestHandler())
await prepared
console.log(`Jaunty Pawn is at http://localhost:${port}`)

async function answer(request, response) {
  const handle = await prepared
  await handle(request, response)
}

/** Listens on the first free port from the one that is wanted. */
async function listen(server, wanted) {
  for (let port = wanted; port < wanted + 100; port++) {
    const taken = await new Promise((resolve, reject) => {
      server.once('error', (error) => (error.code === 'EADDRINUSE' ? resolve(true) : reject(error)))
      server.listen(port, HOST, () => resolve(false))
    })
    server.removeAllListeners('error')
    if (!taken) return port
  }
  console.error(`No port from ${wanted} to ${wanted + 99} is free; set PORT.`)
  process.exit(1)
}
