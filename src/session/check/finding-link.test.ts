import { expect, it } from 'vitest'
import type { Finding } from '../../core/check/finding'
import { linkedFinding, nameInLink, placeOfLink } from './finding-link'

const report = {
  findings: ['trap', 'idle-action', 'trap'].map((rule) => ({ rule }) as Finding),
}

it('names findings by their rules, the second one of a rule by its number', () => {
  expect([0, 1, 2].map((place) => nameInLink(report, place))).toEqual(['trap', 'idle-action', 'trap.2'])
  expect(['trap', 'idle-action', 'trap.2'].map((name) => placeOfLink(report, name))).toEqual([0, 1, 2])
})

it('knows that a finding is gone, or never was', () => {
  expect(placeOfLink(report, 'trap.3')).toBeNull()
  expect(placeOfLink(report, 'no such rule')).toBeNull()
})

it('is known by its part of the address', () => {
  expect(linkedFinding('https://here.example/environment/x/check?finding=trap.2')).toBe('trap.2')
  expect(linkedFinding('https://here.example/environment/x/check')).toBeNull()
})
