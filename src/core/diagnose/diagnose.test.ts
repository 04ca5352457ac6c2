import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readEnvironment } from '../environment/read'
import { kindOf, type EnvironmentDocument } from '../kinds/kinds'
import type { RulebookEnvironment } from '../kinds/rulebook/kind'
import { constant } from '../learn/schedule'
import { ProblemError } from '../problem'
import type { LearnChoice } from '../settings/choice'
import { choiceIn, firstChoice } from '../settings/first-choice'
import { gridDocument } from '../testing/models'
import { diagnose } from './diagnose'
import type { Diagnosis, DiagnosisReport } from './finding'
import { diagnosisData, diagnosisText, summaryLine, triedWords } from './report'
import type { DiagnosisRuleId } from './rule-ids'

const demo = (name: string) => readEnvironment(readFileSync(`demo/${name}.json`, 'utf8'), name, '.json')

function look(document: EnvironmentDocument, said: Partial<LearnChoice> = {}, runs = 0): DiagnosisReport {
  return diagnose({ document, choice: { ...firstChoice(document), ...said }, runs })
}

const rules = ({ findings }: DiagnosisReport) => findings.map(({ rule }) => rule)

function finding(report: DiagnosisReport, rule: DiagnosisRuleId): Diagnosis {
  const found = report.findings.find((each) => each.rule === rule)
  expect(found, `${rule} among ${rules(report).join(', ')}`).toBeDefined()
  return found!
}

/** A corridor of cells with a door at its end. */
function corridor(length: number, cap = 200, grid = {}) {
  return gridDocument(
    ['.'.repeat(length)],
    {
      starts: [{ at: 'A1', weight: 1 }],
      endings: [{ at: `${String.fromCharCode(64 + length)}1`, reward: 10, name: 'door' }],
      stepReward: 0,
      ...grid,
    },
    cap,
  )
}

describe('numbers of the evidence', () => {
  it('the chance of an episode to come to the door, and the episodes that takes, by hand', () => {
    // Three cells, two steps: west in A1 bumps into the wall. Of 4 actions one goes on: (1/4)².
    const document = corridor(3, 2)
    const exploration = { way: 'epsilon-greedy', level: constant(1) } as const
    const report = Array.from({ length: 20 }, (_, seed) =>
      look(document, { episodes: 1, seed, exploration }),
    ).find((each) => rules(each).includes('never-reached'))!
    const { evidence } = finding(report, 'never-reached')
    expect(evidence).toContain('6.3\u00a0%')
    // ln 0.05 / ln(15/16) = 46.4
    expect(evidence).toContain('47 episodes')
  })

  it('what exploring costs, by hand', () => {
    // One step to the door: with ε = 0.4 it is taken with 0.6 + 0.4 / 4 = 0.7; two steps at most.
    const document = corridor(2, 2)
    const report = look(document, { exploration: { way: 'epsilon-greedy', level: constant(0.4) } })
    expect(report).toMatchObject({ healthy: true, learned: 10, best: 10 })
    // 7 + 0.3 x 0.9 x 7 = 8.89
    expect(finding(report, 'exploring-costs').title).toBe('Exploring costs 1.11 an episode now.')
  })

  it('the least discount at which what is far is gone for, by hand', () => {
    // One step to 1, four steps to 10: 10 d³ > 1 from d = 0.4642 on.
    const document = gridDocument(['......'], {
      starts: [{ at: 'B1', weight: 1 }],
      endings: [
        { at: 'A1', reward: 1, name: 'near' },
        { at: 'F1', reward: 10, name: 'far' },
      ],
      stepReward: 0,
    })
    const report = look(document, { discount: 0.3 })
    const { evidence, change } = finding(report, 'discount')
    expect(Number(/From a discount of ([\d.]+)/.exec(evidence)![1])).toBeCloseTo(10 ** (-1 / 3), 3)
    expect(change!.choice.discount).toBeGreaterThan(10 ** (-1 / 3))
    expect(rules(look(document, { discount: 0.9 }))).not.toContain('discount')
  })

  it('the step limit against the shortest way', () => {
    const report = look(corridor(6, 4))
    const cap = finding(report, 'cap')
    expect(cap.title).toBe('Episodes are cut off after 4 steps; the shortest way takes 5.')
    expect(cap.proof).toEqual({ kind: 'proved' })
    expect(cap.tried!.before).toBe(0)
    // 10 x 0.9⁴
    expect(cap.tried!.after).toBeCloseTo(6.561, 9)
    expect(rules(look(corridor(6, 60)))).not.toContain('cap')
  })
})

describe('rules', () => {
  it('tell an on-policy learner that keeps away from the beams', () => {
    const beam = demo('alarm-beam')
    const falling = { kind: 'visits', from: 0.5, slowness: 50 } as const
    const said = {
      episodes: 6000,
      learningRate: falling,
      exploration: { way: 'epsilon-greedy', level: constant(0.2) },
    } as const
    const { title, change, tried } = finding(look(beam, { ...said, method: 'sarsa' }), 'on-policy')
    expect(title).toBe('It learned the best way for an agent that explores, not for one that does not.')
    expect(change!.choice).toEqual({ method: 'q-learning' })
    expect(tried!.after).toBeCloseTo(12.37, 2)
    expect(rules(look(beam, { ...said, method: 'q-learning' }))).not.toContain('on-policy')
  })

  it('tell values that are too high because of the maximum of noise', () => {
    const offers = Array.from({ length: 8 }, (_, i) => `offer ${i + 1}`)
    const lines = [
      'state,action,next_state,probability,reward',
      'lobby,sure,end,1,1',
      'lobby,gamble,fair,1,0',
    ]
    for (const offer of offers) lines.push(`fair,${offer},won,0.5,6`, `fair,${offer},lost,0.5,-5`)
    const document = readEnvironment(lines.join('\n') + '\n', 'Fair', '.csv')
    const said = choiceIn(document, {
      episodes: 3000,
      learningRate: constant(0.1),
      // Every offer is tried as often, so that the maximum stays too high.
      exploration: { way: 'epsilon-greedy', level: constant(1) },
      discount: 1,
    })
    const { evidence, change } = finding(look(document, said), 'maximisation')
    // The sure offer pays 1, the others 0.5 in the mean.
    expect(evidence).toContain('the exact value of its greedy policy is 0.5.')
    expect(change).not.toBeNull()
    expect(rules(look(document, { ...said, method: 'double-q-learning' }))).not.toContain('maximisation')
  })

  it('tell a policy that settled too early', () => {
    const document = gridDocument(['.......'], {
      starts: [{ at: 'C1', weight: 1 }],
      endings: [
        { at: 'A1', reward: 1, name: 'near' },
        { at: 'G1', reward: 10, name: 'far' },
      ],
      stepReward: 0,
    })
    const said = { method: 'reinforce', episodes: 1500 } as const
    const fast = look(document, { ...said, learningRate: constant(5) })
    const { states, evidence } = finding(fast, 'collapsed')
    expect(states.length).toBeGreaterThan(0)
    expect(evidence).toContain('nearly certain')
    expect(rules(look(document, { ...said, learningRate: constant(0.05), episodes: 6000 }))).not.toContain(
      'collapsed',
    )
  })

  it('tell the gradient that is left, by hand', () => {
    // Two ways to the end: the one taken at first is all but certain after a few episodes.
    const document = readEnvironment(
      'state,action,next_state,probability,reward\nlobby,near,end,1,1\nlobby,far,end,1,2\n',
      'Two ways',
      '.csv',
    )
    const said = { method: 'reinforce', episodes: 100, learningRate: constant(10) } as const
    const reports = Array.from({ length: 20 }, (_, seed) => look(document, { ...said, seed }))
    const { evidence } = finding(
      reports.find((each) => rules(each).includes('collapsed'))!,
      'collapsed',
    )
    const [, certain, left, began] =
      /in lobby with ([^%]+)\u00a0%.* for it is (\S+) now \((\S+) when the run began\)/.exec(evidence)!
    // p(1 − p) times what “far” pays more; at the beginning p is a half.
    expect(Number(began)).toBe(0.25)
    expect(certain).toBe('more than 99.9')
    expect(Number(left)).toBeLessThan(0.001)
    expect(Number(left)).toBeGreaterThan(0)
  })

  it('tell a bonus that bends the best policy, and none where it does not', () => {
    // The bonus lies the other way, and is worth more than the delay.
    const bent = (at: string, reward: number) => ({
      ...corridor(9, 60, {
        starts: [{ at: 'D1', weight: 1 }],
        bonuses: [{ at, reward, once: true, name: 'clap' }],
      }),
      discount: 0.9,
    })
    const { states, evidence } = finding(look(bent('A1', 20)), 'bonus')
    expect(states.length).toBeGreaterThan(0)
    expect(evidence).toContain('They part in')
    expect(rules(look(bent('F1', 1)))).not.toContain('bonus')
  })

  it('tell what no agent can do that sees so little, and not that learning is at fault', () => {
    const report = look(demo('same-looking-doors'))
    expect(rules(report).slice(0, 2)).toEqual(['look-alikes', 'fine'])
    expect(finding(report, 'fine').title).toMatch(/^Learning is not at fault/)
  })

  it('tell the first place where the best way is lost, in its order', () => {
    // Forty episodes see little of a long corridor.
    const report = look(corridor(12, 30), { episodes: 40 })
    const { title, states, picture } = finding(report, 'off-the-way')
    expect(title).toMatch(/^The best way is lost at [A-L]1:/)
    expect([...states].sort((a, b) => a - b)).toEqual(states)
    expect(picture!.bars[0].label).toBe('A1')
    expect(rules(look(corridor(4, 60)))).not.toContain('off-the-way')
  })

  it('tell that other actions are carried out, and a trap that Check finds, where the run is poor', () => {
    // Whoever goes east from B1 falls through a hatch into a room without a door.
    const trap = gridDocument(['....', '####', '....'], {
      starts: [{ at: 'B1', weight: 1 }],
      endings: [{ at: 'A1', reward: 10, name: 'door' }],
      jumps: [{ at: 'C1', to: 'B3' }],
      veer: 0.2,
      stepReward: 0,
    })
    const poor = look(trap, {
      episodes: 2,
      exploration: { way: 'epsilon-greedy', level: constant(0) },
      seed: 3,
    })
    expect(finding(poor, 'environment').advice).toContain('Look at Check.')
    expect(poor.healthy || rules(poor).includes('clamped')).toBe(true)
    expect(rules(look(corridor(4, 60)))).not.toContain('environment')
    expect(rules(look(corridor(4, 60)))).not.toContain('clamped')
  })

  it('tell how often a clamped action was carried out as another one', () => {
    // Only pushes of one are possible: the others are carried out as that.
    const document: EnvironmentDocument = {
      ...(kindOf({ kind: 'rulebook' }).blank('Pushing') as RulebookEnvironment),
      rulebook: {
        text: [
          'state place from 0 to 6',
          'start place = 0',
          'action push from 1 to 3 when push <= 1',
          'action wait',
          'impossible actions are clamped',
          'next place = if action = push then place + push else place',
          'reward if action = push then -1 else 0',
          'end when place = 6',
        ].join('\n'),
        knobs: {},
        view: { across: null, up: null, others: {} },
      },
    }
    // The first of equal values: push 1 six times, then push 2 six times, and all of them cost the same.
    const said = {
      episodes: 2,
      ties: 'first',
      exploration: { way: 'epsilon-greedy', level: constant(0) },
    } as const
    const { evidence, states } = finding(look(document, said), 'clamped')
    expect(evidence).toContain(
      '50\u00a0% of 12 steps were carried out as another action than the one chosen.',
    )
    expect(evidence).toContain('The actions push 1, push 2, push 3 are possible in the same states')
    expect(states).toHaveLength(6)
    // With one episode only what was possible was chosen.
    expect(finding(look(document, { ...said, episodes: 1 }), 'clamped').evidence).toContain(
      '0\u00a0% of 6 steps',
    )
  })

  it('say so where nothing that was tried helps', () => {
    const report = look(demo('audio-guide-tip'))
    expect(rules(report)).toEqual(['unexplained'])
    expect(report.findings[0].explains).toBeCloseTo(report.best! - report.learned!, 9)
  })

  it('tell luck, good and bad, by other seeds', () => {
    const report = look(demo('which-poster'), {}, 19)
    const { proof, picture } = finding(report, 'luck')
    expect(proof).toMatchObject({ kind: 'seeds', of: 20 })
    expect(picture!.bars).toHaveLength(20)
    expect(picture!.bars.filter(({ label }) => label === 'this run')).toHaveLength(1)
    // The groups stand one after the other, the better one first, and are named by how many they are.
    const groups = picture!.bars.map(({ group }) => group!)
    const names = [...new Set(groups)]
    expect(names).toHaveLength(2)
    for (const [i, name] of names.entries()) {
      const count = groups.filter((group) => group === name).length
      expect(name).toBe(`${i ? 'not fine' : 'fine'}: ${count} run${count === 1 ? '' : 's'}`)
    }
  })
})

describe('a report', () => {
  const report = look(corridor(6, 4), {}, 2)
  const model = { labels: ['A1', 'B1', 'C1', 'D1', 'E1', 'F1'] }

  it('is text of three findings, and all of them where they are asked for', () => {
    const text = diagnosisText(report, model)
    expect(text).toContain('1. Episodes are cut off after 4 steps')
    expect(text).toContain(triedWords(report.findings[0]))
    expect(text.match(/^\d\. /gm)!.length).toBeLessThanOrEqual(3)
    expect(diagnosisText(report, model, true).match(/^\d\. /gm)).toHaveLength(report.findings.length)
    expect(summaryLine(report)).toMatch(/^The learned policy is worth 0, the optimal one 0, a random one 0\./)
  })

  it('is plain data with states by name', () => {
    const data = JSON.parse(JSON.stringify(diagnosisData(report, model))) as ReturnType<typeof diagnosisData>
    expect(data.findings[0]).toMatchObject({ rule: 'cap', proof: { kind: 'proved' } })
    expect(data.findings[0].states[0]).toBe('A1')
  })
})

it('refuses what finds no policy, and what is too large, with the way out', () => {
  expect(() => look(corridor(3), { method: 'td-lambda' })).toThrow(ProblemError)
  const wide = gridDocument(
    Array.from({ length: 80 }, () => '.'.repeat(80)),
    {
      endings: [{ at: 'A1', reward: 1, name: '' }],
    },
  )
  expect(() => look(wide)).toThrow('6\u202f400 states')
})

it('is the same twice', () => {
  const once = look(corridor(5, 60), { episodes: 30 }, 2)
  const again = look(corridor(5, 60), { episodes: 30 }, 2)
  expect({ ...once, seconds: 0 }).toEqual({ ...again, seconds: 0 })
})
