// Installs what is missing, builds when the build is older than the sources, and serves the application.
import { spawn } from 'node:child_process'
import { createServer } from 'node:net'
import { buildIfStale } from './build.mjs'
import { installPackages } from './install.mjs'

installPackages()
buildIfStale()
const port = await freePort(Number(process.env.PORT) || 3000)
console.log(`Jaunty Pawn is at http://localhost:${port}`)
const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '--port', String(port)], {
  stdio: ['ignore', 'ignore', 'inherit'],
  env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
})
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => process.exit(code ?? 0))

/** The first free port from the one that is wanted. */
async function freePort(wanted) {
  for (let port = wanted; port < wanted + 100; port++)
    if (
      await new Promise((resolve) => {
        const probe = createServer()
        probe.once('error', () => resolve(false))
        probe.listen(port, () => probe.close(() => resolve(true)))
      })
    )
      return port
  throw new Error(`No port from ${wanted} to ${wanted + 99} is free; set PORT.`)
}
