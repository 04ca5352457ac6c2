import { expect, it } from 'vitest'
import { choiceIn } from '../settings/first-choice'
import { gridDocument } from '../testing/models'
import { PlayerShelf } from './player-shelf'

it('keeps what is at hand as long as it is small, the latest longest', () => {
  const shelf = new PlayerShelf()
  const task = (side: number) => {
    // Everywhere may be a start, so that every cell is a state.
    const document = gridDocument(
      Array.from({ length: side }, () => '.'.repeat(side)),
      { veer: 0.2 },
    )
    return { document, choice: choiceIn(document, {}) }
  }
  const [small, other] = [task(3), task(4)]
  const first = shelf.get('small', small)
  expect(shelf.get('other', other)).not.toBe(first)
  expect(shelf.get('small', small)).toBe(first)
  // Larger than all that may be kept: it is at hand, and nothing else is.
  const large = shelf.get('large', { ...small, document: other.document })
  Object.defineProperty(large, 'size', { value: 3_000_000 })
  expect(shelf.get('large', other)).toBe(large)
  expect(shelf.get('small', small)).not.toBe(first)
  expect(shelf.get('large', other)).not.toBe(large)
})
