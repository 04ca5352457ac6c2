import { describe, expect, it } from 'vitest'
import type { Seen } from '../../core/exercise/seen'
import { actionsOf, drawnJson, filled, readDrawn } from './drawn'

const SEEN: Seen = {
  states: [
    { states: ['A1'], actions: ['east', 'south'] },
    { states: ['B1', 'C1'], actions: ['south', 'wait'] },
    { states: ['A2'], actions: ['east'] },
  ],
  board: null,
  text: null,
}

describe('a policy that is drawn', () => {
  it('is handed in by every state of its places', () => {
    expect(JSON.parse(drawnJson(SEEN, { 0: 'east', 1: 'wait', 2: 'east' }))).toEqual({
      policy: { A1: 'east', B1: 'wait', C1: 'wait', A2: 'east' },
    })
  })

  it('is taken up again as far as it still fits', () => {
    expect(readDrawn(SEEN, '{"0":"south","1":"east","7":"wait","2":3}')).toEqual({ 0: 'south' })
    for (const damaged of ['', '{', 'null', '[]', '"x"', '3']) expect(readDrawn(SEEN, damaged)).toEqual({})
  })

  it('is filled where nothing is drawn and the action is possible', () => {
    expect(actionsOf(SEEN)).toEqual(['east', 'south', 'wait'])
    expect(filled(SEEN, { 0: 'east' }, 'south')).toEqual({ 0: 'east', 1: 'south' })
    expect(filled(SEEN, {}, 'east')).toEqual({ 0: 'east', 2: 'east' })
  })
})
