// Installs what is missing, builds when the build is older than the sources, and serves the application.
import './settings.mjs'
import { buildIfStale } from './build.mjs'
import { installPackages } from './install.mjs'
import { buildHandOut } from './hand-out.mjs'
import { buildWorkers } from './workers.mjs'

installPackages()
buildIfStale()
await buildWorkers()
await buildHandOut()
await import('./serve.mjs')
