import { readFileSync } from 'node:fs'
import { Validator } from '@seriousme/openapi-schema-validator'
import { expect, it } from 'vitest'
import { DIRECT_ROUTES } from '../direct'
import { openApi, OPERATIONS } from './openapi'
import { protocolReference } from './reference'

it('is OpenAPI 3.1', async () => {
  const validator = new Validator()
  expect(await validator.validate(JSON.parse(JSON.stringify(openApi())))).toEqual({ valid: true })
  expect(validator.version).toBe('3.1')
})

it('tells of every request that is answered, and of no other', () => {
  const told = OPERATIONS.map(({ route, method }) => `${method.toUpperCase()} ${route.replace(/[{}]/g, '')}`)
  const answered = Object.entries(DIRECT_ROUTES)
    .filter(([route]) => route.startsWith('/api/play'))
    .flatMap(([route, handlers]) =>
      Object.keys(handlers).map((method) => `${method} ${route.replace(/[[\]]/g, '')}`),
    )
  expect(told.sort()).toEqual(answered.sort())
})

it('is published as it is', () => {
  expect(JSON.parse(readFileSync('docs/protocol.openapi.json', 'utf8'))).toEqual(
    JSON.parse(JSON.stringify(openApi())),
  )
  expect(readFileSync('docs/protocol.md', 'utf8')).toBe(protocolReference())
})
