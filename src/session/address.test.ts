import { expect, it } from 'vitest'
import { addressWith, partOfAddress } from './address'

it('a part takes the place of all that the address asked for before', () => {
  const link = addressWith('https://here.example/environment/x/check?comparison=c', {
    finding: 'trap & so',
  })
  expect(link).toBe('https://here.example/environment/x/check?finding=trap+%26+so')
  expect(partOfAddress(link, 'finding')).toBe('trap & so')
  expect(partOfAddress(link, 'comparison')).toBeNull()
})
