import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { run } from './install.mjs'

const STAMP = '.next/.built-from'
/** What the built application depends on. */
const SOURCES = ['src', 'demo', 'package-lock.json', 'next.config.mjs', 'postcss.config.mjs', 'tsconfig.json']

/** Builds the application unless the last build was made from the very same sources. */
export function buildIfStale() {
  const hash = createHash('sha256')
  for (const source of SOURCES) addToHash(hash, source)
  const digest = hash.digest('hex')
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === digest) return
  console.error('Building …')
  run(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
  })
  writeFileSync(STAMP, digest)
}

export function addToHash(hash, path) {
  let entries
  try {
    entries = readdirSync(path).sort()
  } catch {
    hash.update(path).update(readFileSync(path))
    return
  }
  for (const entry of entries) addToHash(hash, join(path, entry))
}
