import { describe, expect, it } from 'vitest'
import { solveOptimum } from '../../plan/solve'
import { offered, outcomesOf, problemsOf, rulebook } from '../../testing/rulebooks'

/** Two vans of the globe museum, each in one of three halls, sent one at a time. */
const VANS = `state at list of 2 in cellar, attic, yard
start at = [cellar, yard]
action send with van from 1 to 2, to in cellar, attic, yard when at[van] != to
action wait
table way for cellar = 0, attic = 3, yard = 1
reward -way[to] when action = send
reward 4 when count(at, attic) = 1
next at[van] = to when action = send
`

describe('an action of several parts', () => {
  it('is one action for each combination, the last part changing first, possible where its line says', () => {
    const { model } = rulebook(VANS)
    expect(model.actions).toEqual([
      ...['send van 1 to cellar', 'send van 1 to attic', 'send van 1 to yard'],
      ...['send van 2 to cellar', 'send van 2 to attic', 'send van 2 to yard', 'wait'],
    ])
    expect(offered(model, 'at cellar yard')).toEqual([
      ...['send van 1 to attic', 'send van 1 to yard', 'send van 2 to cellar', 'send van 2 to attic', 'wait'],
    ])
    expect(outcomesOf(model, 'at cellar yard', 'send van 2 to attic')).toEqual({ 'at cellar attic': [1, -3] })
    expect(outcomesOf(model, 'at cellar attic', 'send van 2 to yard')).toEqual({ 'at cellar yard': [1, 3] })
    expect(outcomesOf(model, 'at cellar attic', 'wait')).toEqual({ 'at cellar attic': [1, 4] })
  })

  it('comes after a level, and has a value while another action gives it one', () => {
    const { model } = rulebook(`state left from 0 to 9
start left = 9
action price in 8, 12 with boxes from 1 to 5 by 2, wrap in plain, silk
action close with price = 0, boxes = 0, wrap = plain
reward price * boxes - (if wrap = silk then 3 else 0)
next left = max(0, left - boxes)`)
    expect(model.actions).toEqual([
      ...[8, 12].flatMap((price) =>
        [1, 3, 5].flatMap((boxes) =>
          ['plain', 'silk'].map((wrap) => `price ${price} boxes ${boxes} wrap ${wrap}`),
        ),
      ),
      'close',
    ])
    expect(outcomesOf(model, 'left 9', 'price 12 boxes 3 wrap silk')).toEqual({ 'left 6': [1, 33] })
    expect(outcomesOf(model, 'left 9', 'close')).toEqual({ 'left 9': [1, 0] })
    expect(model.actionLevels).toBeNull()
  })

  it('shares a part with another action, and thins a part out', () => {
    const { model } = rulebook(`state dirty list of 2 yes or no
start dirty = no
action drive with van from 1 to 2, far from 0 to 100 in 3 levels
action wash with van from 2 to 2
next dirty = put(dirty, van, action = drive)
reward -0.1 * far when action = drive`)
    expect(model.actions).toEqual([
      ...[1, 2].flatMap((van) => [0, 50, 100].map((far) => `drive van ${van} far ${far}`)),
      'wash van 2',
    ])
    expect(outcomesOf(model, 'dirty no yes', 'wash van 2')).toEqual({ 'dirty no no': [1, 0] })
    expect(outcomesOf(model, 'dirty no yes', 'drive van 1 far 50')).toEqual({ 'dirty yes yes': [1, -5] })
  })

  it('is worth what the same decision in one number is worth', () => {
    const rest = (where: (van: number) => string) => `state at list of 3 from 0 to 3
start at = [0, 1, 2]
chance call ~ uniform(0, 3)
let reached = count([${[1, 2, 3].map(where).join(', ')}], call)
reward 5 * min(1, reached) - ${[1, 2, 3].map((van) => `abs(${where(van)} - at[${van}])`).join(' - ')}
next at = [${[1, 2, 3].map(where).join(', ')}]
`
    const parts = rest((van) => `to_${van}`).replace(
      'chance',
      'action go with to_1 from 0 to 3, to_2 from 0 to 3, to_3 from 0 to 3 when to_1 <= to_2\nchance',
    )
    const number = rest((van) => `floor(go / ${4 ** (3 - van)}) mod 4`).replace(
      'chance',
      'action go from 0 to 63 when floor(go / 16) <= floor(go / 4) mod 4\nchance',
    )
    const [one, other] = [rulebook(parts).model, rulebook(number).model]
    expect(one.actions[7]).toBe('go to_1 0 to_2 1 to_3 3')
    expect(one.labels).toEqual(other.labels)
    expect(one.rowAction).toEqual(other.rowAction)
    expect(one.outcomeReward).toEqual(other.outcomeReward)
    expect(solveOptimum(one, 0.9)!.values).toEqual(solveOptimum(other, 0.9)!.values)
  })

  it('is chosen by policies by any of its parts: words as they are, numbers as near as possible', () => {
    const { policies, model, facts } = rulebook(`${VANS}policy "home": send with to = cellar, van = 5, wait
policy "second": send with van = 2 when at[2] != yard, wait
policy "never": send with to = attic`)
    const chosen = (title: string, state: string) => {
      const { policy } = policies.find((each) => each.title === title)!
      const s = model.labels.indexOf(state)
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++)
        if (policy[r] === 1) return model.actions[model.rowAction[r]]
      return undefined
    }
    expect(chosen('home', 'at cellar yard')).toBe('send van 2 to cellar')
    expect(chosen('home', 'at yard cellar')).toBe('send van 1 to cellar')
    expect(chosen('home', 'at cellar cellar')).toBe('wait')
    expect(chosen('second', 'at yard attic')).toBe('send van 2 to cellar')
    expect(facts.notes.map(({ cause }) => cause)).toEqual([
      'The policy “never” says nothing possible for the state at attic attic.',
    ])
  })

  it('is clamped to the nearest numbers with the same words', () => {
    const { model } = rulebook(`state oil from 0 to 9
start oil = 0
action fill with lamps from 0 to 4, cans from 0 to 3, kind in good, poor when lamps + 2 * cans <= 4 and lamps >= 1
impossible actions are clamped
next oil = 2 * lamps + (if kind = good then 1 else 0)
reward cans`)
    expect(outcomesOf(model, 'oil 0', 'fill lamps 0 cans 1 kind poor')).toEqual({ 'oil 2': [1, 1] })
    expect(outcomesOf(model, 'oil 0', 'fill lamps 4 cans 1 kind good')).toEqual({ 'oil 9': [1, 0] })
    // Two steps away either way: the first one.
    expect(outcomesOf(model, 'oil 0', 'fill lamps 3 cans 2 kind good')).toEqual({ 'oil 5': [1, 1] })
  })

  it('is refused where it cannot be, with the way out', () => {
    const told = (action: string, more = '') =>
      problemsOf(`state a from 0 to 3\nstart a = 0\n${action}\nnext a = 0\n${more}`).map(
        ({ place, cause, remedy }) => `${place}: ${cause} ${remedy}`,
      )
    expect(told('action go with x from 1 to 2, x from 3 to 4')).toEqual([
      'line 3, column 31: Two parts are called “x”. Name them apart.',
    ])
    expect(told('action go with x from 1 to 2\naction stay with x from 1 to 2, x = 1')[0]).toContain(
      'Two parts are called “x”',
    )
    expect(told('action go with x from 1 to 100, y from 1 to 21')).toEqual([
      'line 3, column 8: There are 2100 actions. Thin them out: “in 11 levels”. At most 2000.',
    ])
    expect(told('action go with x from 1 to 2', 'action idle\nreward x')[0]).toContain(
      '“x” has no value while another action is taken',
    )
    expect(told('action go\naction carry with go in a1, a2')).toEqual([
      'line 4, column 19: “go” is an action. Choose another name for the part.',
    ])
    expect(told('action go with x = 2')).toEqual([
      'line 3, column 16: “x” is no part of an action above this line. Put the line of that action above; a part of this action is written with x in 1, 2.',
    ])
    expect(told('action go with x in up, down\naction idle with x in up, left')).toEqual([
      'line 4, column 18: Another action above has the part “x”, one of up, down. Use those here as well, or choose another name.',
    ])
    expect(told('action go with x in up, down\naction idle with x = 3')).toEqual([
      'line 4, column 22: “x” is one of up, down, and this is a whole number. Use a value of its kind.',
    ])
    expect(told('action go with x from 1 to 2', 'policy "p": go with y = 1')).toEqual([
      'line 5, column 21: “go” has no part “y”. Its parts are x.',
    ])
    expect(told('action go with x in up, down', 'policy "p": go with x = 1')).toEqual([
      'line 5, column 25: “x” is one of up, down, and this is a whole number. Use a value of its kind.',
    ])
    expect(told('action go with x from 1 to 2', 'policy "p": go with x = 1, y = 2')[0]).toContain(
      'no part “y”',
    )
    expect(told('action go with a from 1 to 2')[0]).toContain('“a” is declared twice')
    expect(told('action go with x near 2')[0]).toContain('line 3')
  })
})
