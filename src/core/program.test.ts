import { expect, it } from 'vitest'
import packageFile from '../../package.json' with { type: 'json' }
import { PROGRAM } from './program'

it('is the version of the package', () => {
  expect(PROGRAM).toBe(packageFile.version)
})
