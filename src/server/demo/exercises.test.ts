import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { compileEnvironment } from '../../core/environment/compile'
import { policyObject } from '../../core/evaluate/policy-file'
import { environmentOf } from '../../core/exercise/exercise'
import { readHandIn } from '../../core/exercise/read-hand-in'
import { scoreHandIn } from '../../core/exercise/score'
import { solveOptimum } from '../../core/plan/solve'
import { demoExercise } from './shelf'

const FILES = readdirSync('demo/exercises')
const exerciseOf = (file: string) =>
  demoExercise(JSON.parse(readFileSync(`demo/exercises/${file}`, 'utf8')), 99)
const read = (text: string) => readHandIn(new TextEncoder().encode(text))

it('there are three, one of them with three levels of the vault dial', () => {
  expect(FILES).toHaveLength(3)
  const vault = exerciseOf('open-the-vault.json')
  expect(vault.levels.map(({ knobs }) => knobs.twists)).toEqual([2, 4, 8])
})

it.each(FILES)('what is best on a level has about all its points there, with either seed: %s', (file) => {
  const exercise = exerciseOf(file)
  for (const level of exercise.levels) {
    const document = environmentOf(exercise, level)
    const { model } = compileEnvironment(document)
    const policy = policyObject(model, solveOptimum(model, document.discount)!.policy)
    for (const seed of [exercise.seeds.open, exercise.seeds.hidden!]) {
      const alone = { ...exercise, levels: [level] }
      const [{ share, random, optimum }] = scoreHandIn(alone, read(JSON.stringify(policy)), seed).levels
      expect([level.name, share]).toEqual([level.name, expect.closeTo(1, 1)])
      expect(random).toBeLessThan(optimum)
    }
  }
})

it('the instructor’s policy is what the rulebook says, exactly and from episodes', () => {
  const { levels } = scoreHandIn(
    exerciseOf('open-the-vault.json'),
    read('policy "mine": press when ring[1] > ring[2], left'),
    1,
  )
  for (const { reference, interval } of levels) {
    expect(reference).toBeGreaterThan(interval![0] - 1)
    expect(reference).toBeLessThan(interval![1] + 1)
  }
})
