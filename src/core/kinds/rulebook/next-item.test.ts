import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Model } from '../../model/model'
import { outcomesOf, problemsOf, rulebook } from '../../testing/rulebooks'
import { ProblemError } from '../../problem'

/** Two vans of the globe museum; a van that is sent takes its place, the others stay. */
const vans = (...lines: string[]) => `state at list of 2 in cellar, attic
state load list of 2 from 0 to 3
start at = cellar, load = 2
action send with van from 1 to 2, to in cellar, attic
action wait
${lines.join('\n')}`

describe('one item of a list', () => {
  it('is said alone, and the others stay; its place is asked for where the line holds', () => {
    const { model } = rulebook(
      vans(
        'next at[van] = to when action = send',
        'next load[van] = load[van] - 1 when action = send and load[van] > 0',
      ),
    )
    const from = 'at cellar cellar, load 2 2'
    expect(outcomesOf(model, from, 'send van 2 to attic')).toEqual({ 'at cellar attic, load 2 1': [1, 0] })
    expect(outcomesOf(model, from, 'wait')).toEqual({ [from]: [1, 0] })
  })

  it('takes the first line that holds for it, of lines for one item and for all', () => {
    const { model } = rulebook(
      vans(
        'next load[van] = 3 when action = send and to = attic',
        'next load[1] = 1',
        'next load = [0, 0] when action = send',
        'next load[2] = min(3, load[1] + 1)',
      ),
    )
    const after = (action: string) =>
      Object.keys(outcomesOf(model, 'at cellar cellar, load 2 2', action)).map(
        (state) => state.split('load ')[1],
      )
    expect(after('send van 1 to attic')).toEqual(['3 0'])
    expect(after('send van 2 to attic')).toEqual(['1 3'])
    expect(after('send van 2 to cellar')).toEqual(['1 0'])
    expect(after('wait')).toEqual(['1 3'])
  })

  it('can be read after it was said', () => {
    const { model } = rulebook(vans('next load[2] = 0', 'reward 10 * next load[1] + next load[2]'))
    expect(outcomesOf(model, 'at cellar cellar, load 2 2', 'wait')).toEqual({
      'at cellar cellar, load 2 0': [1, 20],
    })
  })

  it.each([
    ['next load[3] = 1', 'The list has the places 1 to 2.'],
    ['next load[load[1] - 2] = 1', 'The place is 0, the list has the places 1 to 2'],
    ['next load[0.5 * load[1]] = 1', 'This need not be a whole number.'],
    ['next load[1] = attic', 'load[1] is a number, and this is a word.'],
    ['next load[1] = [1, 2]', 'This is a list of 2.'],
    ['next load[1] = 9', 'load[1] goes from 0 to 3, and this is 9.'],
    ['next load[1 = 9', 'Here should stand “]”'],
    ['next load[1] 9', 'Here should stand “=”, not “9”.'],
    ['next load[1] = 1\nnext load[1] = 2', 'a line above says what load[1] will be, whatever happens'],
    ['next load[1] = 1\nnext load[2] = 2\nnext load[van] = 2', 'a line above says what load will be'],
    ['state left from 0 to 3\nstart left = 1\nnext left[1] = 1', 'left is no list.'],
    ['let load[1] = 3', 'Items of a list are said one by one in “next” lines alone.'],
  ])('says what is wrong with %s', (line, cause) => {
    expect(
      problemsOf(vans(line))
        .map((each) => each.cause)
        .join(' '),
    ).toContain(cause)
  })

  it('means what the whole list means with put', () => {
    const place = fc.constantFrom('1', '2', '3', 'van', '1 + next_one')
    const value = fc.constantFrom('0', 'load[van]', '2 - load[1]', 'next_one')
    const when = fc.constantFrom('', 'action = lift', 'load[2] > 0', 'falls')
    fc.assert(
      fc.property(fc.array(fc.tuple(place, value, when), { minLength: 1, maxLength: 4 }), (lines) => {
        const text = (rules: readonly string[]) => `state load list of 3 from 0 to 2
start load = [0, 1, 2]
action lift with van from 1 to 3
action drop with van = 2
chance falls ~ coin(0.25)
let next_one = if falls then 1 else 0
${rules.join('\n')}
reward sum(load)`
        // The first line that holds counts: later ones are put in before it.
        const whole = lines.reduceRight(
          (list, [at, of, holds]) =>
            holds
              ? `(if ${holds} then put(${list}, ${at}, ${of}) else ${list})`
              : `put(${list}, ${at}, ${of})`,
          'load',
        )
        const items = unlessNeverReached(
          text(lines.map(([at, of, holds]) => `next load[${at}] = ${of}${holds && ` when ${holds}`}`)),
        )
        if (items) expect(items).toEqual(rulebook(text([`next load = ${whole}`])).model)
      }),
      { numRuns: 80 },
    )
  })
})

/** A line that is never reached is refused, which put does not know. */
function unlessNeverReached(text: string): Model | null {
  try {
    return rulebook(text).model
  } catch (error) {
    if (error instanceof ProblemError && error.problems.every(({ cause }) => cause.includes('never reached')))
      return null
    throw error
  }
}
