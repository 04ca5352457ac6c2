import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { expect, it } from 'vitest'
import KERNELS from './kernels.json' with { type: 'json' }

/** A source and what it imports, in the order in which the compiler reads them. */
function sources(file: string): string {
  const text = readFileSync(file, 'utf8')
  const imported = [...text.matchAll(/^import .* from '(.*)'$/gm)].map(([, path]) =>
    sources(`${join(dirname(file), path)}.as`),
  )
  return [text, ...imported].join('')
}

it.each(KERNELS)('$name was built from the source that stands beside it', ({ source, target }) => {
  const hash = createHash('sha256').update(sources(source)).digest('hex').slice(0, 16)
  expect(readFileSync(target, 'utf8')).toContain(`; ${hash} is a hash of its sources.`)
})
