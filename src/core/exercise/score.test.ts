import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { checkEnvironment } from '../environment/document'
import { newBandit } from '../kinds/bandit/blank'
import { rulebookEnvironment } from '../kinds/rulebook/blank'
import { EXERCISE_FORMAT, type Exercise } from './exercise'
import { checkExercise, parseExercise } from './read-exercise'
import { scoreHandIn } from './score'

// Taking pays the prize, leaving pays 1: a random agent expects the mean of the two.
const prize = rulebookEnvironment(
  'Prize',
  `knob prize = 10 from 0 to 20
knob chance_of_it = 1 from 0 to 1 by 0.1
state place from 0 to 1
start place = 0
action take
action leave
chance luck ~ coin(chance_of_it)
reward if action = leave then 1 else if luck then prize else 0
next place = 1
end when place = 1
policy "leave it": leave
`,
)
const exercise = (part: object = {}): Exercise =>
  checkExercise({
    ...{ format: EXERCISE_FORMAT, version: 1, name: 'Prizes', environment: prize, episodes: 400 },
    levels: [{ name: 'ten', points: 3 }],
    ...part,
  })
const always = (action: string) => ({ kind: 'policy', policy: { 'place 0': action } }) as const
const MIXED = { kind: 'policy', policy: { 'place 0': { take: 0.75, leave: 0.25 } } } as const

describe('a score', () => {
  it('is held against a random agent and what is possible', () => {
    const [best] = scoreHandIn(exercise(), always('take'), 1).levels
    expect(best).toMatchObject({
      mean: 10,
      random: 5.5,
      optimum: 10,
      reference: null,
      share: 1,
      points: 3,
      of: 3,
    })
    expect(best.interval).toEqual([10, 10])
    const [worst] = scoreHandIn(exercise(), always('leave'), 1).levels
    expect(worst).toMatchObject({ mean: 1, share: -1, points: 0 })
  })

  it('of a policy that chooses at random says what its most likely action would expect', () => {
    const likely = (handIn: Parameters<typeof scoreHandIn>[1]) =>
      scoreHandIn(exercise(), handIn, 1).levels[0].likely
    // Three times in four it takes 10, else 1; always taking is worth 10.
    const [mixed] = scoreHandIn(exercise(), MIXED, 1).levels
    expect(mixed.mean).toBeLessThan(9)
    expect(mixed.likely).toBe(10)
    expect(likely(always('leave'))).toBeNull()
    // Two actions that are as likely share: that is the policy itself.
    expect(likely({ kind: 'policy', policy: { 'place 0': { take: 0.5, leave: 0.5 } } })).toBeNull()
  })

  it('is the sum of the levels, each with its knobs', () => {
    const levels = [
      { name: 'ten', points: 1 },
      { name: 'four', knobs: { prize: 4 }, points: 2 },
      // Whatever one does is the best.
      { name: 'one', knobs: { prize: 1 }, points: 4 },
      { name: 'nothing', knobs: { prize: 0 }, points: 8 },
    ]
    const { levels: scores, points, of } = scoreHandIn(exercise({ levels }), always('take'), 5)
    expect(scores.map(({ random, optimum }) => [random, optimum])).toEqual([
      [5.5, 10],
      [2.5, 4],
      [1, 1],
      [0.5, 1],
    ])
    expect(scores.map(({ share }) => share)).toEqual([1, 1, null, -1])
    expect([points, of]).toEqual([7, 15])
  })

  it('has points for a part of what is possible', () => {
    const levels = [{ name: 'by luck', knobs: { chance_of_it: 0.5 }, points: 10 }]
    const of = (seed: number) => scoreHandIn(exercise({ levels, episodes: 4000 }), MIXED, seed).levels[0]
    const { mean, interval, random, optimum, share, points } = of(1)
    // Taking is worth 5, leaving 1, the mixture 4: half of the way from 3 to 5.
    expect([random, optimum]).toEqual([3, 5])
    expect(Math.abs(mean - 4)).toBeLessThan(0.3)
    expect(share).toBeCloseTo((mean - 3) / 2, 12)
    expect(points).toBeCloseTo(10 * share!, 12)
    expect(interval![0]).toBeLessThan(mean)
    // An interval of 95 % misses the truth in about one of twenty.
    const missed = Array.from({ length: 60 }, (_, seed) => of(seed).interval!).filter(
      ([low, high]) => low > 4 || high < 4,
    )
    expect(missed.length).toBeLessThanOrEqual(9)
  })

  it('is the same for the same seed, and another one for another', () => {
    const levels = [{ name: 'by luck', knobs: { chance_of_it: 0.5 } }]
    const score = (seed: number) => scoreHandIn(exercise({ levels }), MIXED, seed)
    expect(score(7)).toEqual(score(7))
    expect(score(7).levels[0].mean).not.toBe(score(8).levels[0].mean)
  })

  it('names the worst episode, and counts what the step limit leaves', () => {
    const rounds = checkEnvironment(JSON.parse(readFileSync('demo/night-rounds.json', 'utf8')))
    const task = exercise({
      environment: { ...rounds, cap: 3 },
      episodes: 50,
      reference: { kind: 'action', action: 'east' },
    })
    const states = ['A', 'B', 'C', 'D', 'E', 'F', 'G', 'H', 'I', 'J'].flatMap((column) =>
      [1, 2, 3, 4, 5, 6, 7, 8, 9, 10].map((line) => [`${column}${line}`, 'east']),
    )
    const [score] = scoreHandIn(task, { kind: 'policy', policy: Object.fromEntries(states) }, 3).levels
    // Three steps of -1 each are all that can be had on the way.
    const lost = -(1 + 0.98 + 0.98 ** 2)
    expect(score.optimum).toBeCloseTo(lost, 9)
    expect(score.worst).toBeGreaterThanOrEqual(0)
    expect(score.reference).toBeLessThanOrEqual(score.optimum)
  })

  it('tells on which level something does not fit', () => {
    expect(() => scoreHandIn(exercise(), always('fly'), 1)).toThrow(
      'ten, policy, state "place 0": It has no action "fly".',
    )
    const only = exercise({ accepts: ['table'] })
    expect(() => scoreHandIn(only, always('take'), 1)).toThrow(
      'which this exercise does not take. Hand in a learned table.',
    )
    const bandit = newBandit('Anew')
    const anew = exercise({ environment: { ...bandit, bandit: { ...bandit.bandit, anew: 0.5 } } })
    expect(() => scoreHandIn(anew, always('take'), 1)).toThrow('It is another one in every run')
  })
})

describe('an exercise', () => {
  it('comes back through JSON', () => {
    const task = exercise({ note: 'Take it?', reference: { kind: 'written', title: 'leave it' } })
    expect(parseExercise(JSON.stringify(task))).toEqual(task)
    expect(scoreHandIn(task, always('take'), 1).levels[0].reference).toBe(1)
  })

  it.each([
    [{ levels: [] }, 'levels'],
    [{ levels: [{ name: 'a' }, { name: 'a' }] }, 'levels.1'],
    [{ levels: [{ name: 'a', knobs: { height: 1 } }] }, 'levels.0'],
    [{ levels: [{ name: 'a', knobs: { prize: 99 } }] }, 'levels.0'],
    [{ environment: { format: 'jaunty-pawn/environment' } }, 'environment'],
    [{ accepts: ['essay'] }, 'accepts.0'],
    [{ episodes: 0 }, 'episodes'],
    [{ seeds: { open: -1 } }, 'seeds.open'],
    [{ reference: { kind: 'written', title: 'gone' } }, 'levels.0'],
    [{ colour: 'red' }, 'colour'],
  ])('%j is refused with its place', (part, place) => {
    expect(() => exercise(part)).toThrow(new RegExp(`^${place.replace('.', '\\.')}`))
  })

  it('that is not JSON is refused', () => {
    expect(() => parseExercise('{')).toThrow('This is not valid JSON.')
  })
})
