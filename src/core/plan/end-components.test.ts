import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ModelBuilder } from '../model/builder'
import type { Model } from '../model/model'
import { endComponents } from './end-components'

/** Rows of a state: where each may lead, and whether that discounts what follows. */
type Rows = readonly (readonly { readonly next: number; readonly discounted: boolean }[])[]

const STATES = 5

/** Every state has up to three actions of up to three outcomes; a state without one is an ending. */
const rows: fc.Arbitrary<Rows[]> = fc
  .array(
    fc.array(
      fc.array(
        fc.record({
          next: fc.nat(STATES - 1),
          discounted: fc.integer({ min: 0, max: 7 }).map((die) => die === 0),
        }),
        { minLength: 1, maxLength: 3 },
      ),
      { maxLength: 3 },
    ),
    { minLength: STATES, maxLength: STATES },
  )
  .filter(([start]) => start.length > 0)

function built(states: readonly Rows[]): Model {
  const builder = new ModelBuilder()
  for (let s = 0; s < STATES; s++) builder.state(`s${s}`)
  states.forEach((actions, s) =>
    actions.forEach((outcomes, a) => {
      // Rewards differ, so that no outcomes are taken together.
      outcomes.forEach(({ next, discounted }, i) =>
        builder.outcome(
          builder.row(s, builder.action(`a${a}`)),
          next,
          1 / outcomes.length,
          i,
          discounted ? 0.5 : 1,
        ),
      )
    }),
  )
  return builder.build({ starts: [{ state: 0, weight: 1 }], cap: 10 })
}

/** The states that can be reached from one along the actions that stay within a set; the one itself among them. */
function reached(states: readonly Rows[], inside: ReadonlySet<number>, from: number): Set<number> {
  const seen = new Set([from])
  for (const s of seen)
    for (const outcomes of staying(states[s], inside)) for (const { next } of outcomes) seen.add(next)
  return seen
}

function staying(actions: Rows, inside: ReadonlySet<number>): Rows {
  return actions.filter((outcomes) => outcomes.every((o) => inside.has(o.next) && !o.discounted))
}

/** By the definition: every set of states tried, then those left out that lie in a larger one. */
function byDefinition(states: readonly Rows[]): number[][] {
  const found: Set<number>[] = []
  for (let mask = 1; mask < 1 << STATES; mask++) {
    const inside = new Set(Array.from({ length: STATES }, (_, s) => s).filter((s) => mask & (1 << s)))
    const closed = [...inside].every(
      (s) => staying(states[s], inside).length > 0 && reached(states, inside, s).size === inside.size,
    )
    if (closed) found.push(inside)
  }
  return found
    .filter((one) => !found.some((other) => other !== one && [...one].every((s) => other.has(s))))
    .map((set) => [...set].toSorted((a, b) => a - b))
}

const sorted = (sets: readonly (readonly number[])[]) =>
  sets.map((set) => set.join(' ')).toSorted((a, b) => a.localeCompare(b))

describe('the maximal end components', () => {
  it('are those of the definition, every set of states tried', () => {
    let several = 0
    fc.assert(
      fc.property(rows, (states) => {
        const model = built(states)
        const { components, stays } = endComponents(model)
        const wanted = byDefinition(states)
        expect(sorted(components.map((each) => [...each]))).toEqual(sorted(wanted))
        if (wanted.length > 1) several++

        // An action stays exactly where all it may lead to lies in the component of its state.
        const home = states.map((_, s) => new Set(wanted.find((set) => set.includes(s)) ?? []))
        for (let s = 0; s < STATES; s++)
          for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
            const [action] = staying([states[s][r - model.rowStart[s]]], home[s])
            expect(stays[r], `action ${r - model.rowStart[s]} of state ${s}`).toBe(action ? 1 : 0)
          }
      }),
      { numRuns: process.env.LONG ? 20_000 : 1000 },
    )
    // The models tried are not all alike.
    expect(several).toBeGreaterThan(20)
  })

  it('need no recursion: a ring of 200,000 states is one, cut open it is none', () => {
    const ring = (last: number) => {
      const builder = new ModelBuilder()
      const count = 200_000
      for (let s = 0; s <= count; s++) builder.state(`s${s}`)
      for (let s = 0; s < count; s++)
        builder.outcome(builder.row(s, builder.action('on')), s + 1 === count ? last : s + 1, 1, 0)
      return builder.build({ starts: [{ state: 0, weight: 1 }], cap: 10 })
    }
    const whole = endComponents(ring(0)).components
    expect(whole.map(({ length }) => length)).toEqual([200_000])
    expect(endComponents(ring(200_000)).components).toEqual([])
  })
})
