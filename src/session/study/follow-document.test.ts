import { expect, it } from 'vitest'
import { gridDocument } from '../../core/testing/models'
import { followDocument } from './follow-document'
import type { Study } from './study'

/** Sessions that keep what they are told, and nothing else. */
function parts(planDiscount: number, learnDiscount: number, cap: number) {
  const session = <T extends object>(state: T) => ({
    store: { getState: () => state },
    choose: (part: object) => void Object.assign('choice' in state ? (state.choice as object) : state, part),
  })
  const plan = session({ discount: planDiscount })
  const beside = session({ discount: planDiscount })
  const learn = session({ choice: { discount: learnDiscount, cap } })
  return { plan, beside, learn } as unknown as Pick<Study, 'plan' | 'beside' | 'learn'>
}

it('discount and cap follow the environment, and stay where they were set apart', () => {
  const before = { ...gridDocument(['..']), discount: 0.9, cap: 0 }
  const after = { ...before, discount: 0.5, cap: 30 }
  // Learning needs some cap: 1000 where the environment has none.
  const following = parts(0.9, 0.9, 1000)
  followDocument(before, after, following)
  expect(following.plan.store.getState().discount).toBe(0.5)
  expect(following.beside.store.getState().discount).toBe(0.5)
  expect(following.learn.store.getState().choice).toMatchObject({ discount: 0.5, cap: 30 })
  const apart = parts(0.8, 0.7, 60)
  followDocument(before, after, apart)
  expect(apart.plan.store.getState().discount).toBe(0.8)
  expect(apart.learn.store.getState().choice).toMatchObject({ discount: 0.7, cap: 60 })
})
