import { expect, it } from 'vitest'
import { ModelBuilder } from '../model/builder'
import { collapsedStates } from './collapse'

it('names the visited states with a choice in which one action is nearly certain, each observation once', () => {
  const builder = new ModelBuilder()
  const names = ['sure', 'open', 'never seen', 'no choice', 'like sure', 'end']
  const states = names.map((label) => builder.state(label))
  for (const [i, s] of states.slice(0, 5).entries()) {
    builder.outcome(builder.row(s, builder.action('go')), states[5], 1, 0)
    if (i !== 3) builder.outcome(builder.row(s, builder.action('stay')), s, 1, 0)
  }
  const model = builder.build({
    starts: [{ state: states[0], weight: 1 }],
    cap: 5,
    observation: Int32Array.of(0, 1, 2, 3, 0, 4),
  })
  const policy = Float64Array.of(0.99995, 0.00005, 0.99, 0.01, 1, 0, 1, 0.99995, 0.00005)
  const visits = Float64Array.of(3, 0, 2, 1, 0, 0, 7, 4, 0)
  expect(collapsedStates(model, policy, visits)).toEqual({ collapsed: [0], of: 2 })
  expect(collapsedStates(model, policy, new Float64Array(9))).toEqual({ collapsed: [], of: 0 })
})
