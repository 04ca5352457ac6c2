import { describe, expect, it } from 'vitest'
import { checkEnvironmentModel } from '../check/check'
import { compileEnvironment } from '../environment/compile'
import { newBandit } from '../kinds/bandit/blank'
import { gridDocument } from '../testing/models'
import { checkLesson } from './read-lesson'
import { foundText, reportOf } from './report'

const hall = {
  ...gridDocument(['..:', '.#.'], { endings: [{ at: 'C2', reward: 4, name: '' }] }),
  note: 'Over the carpet or not?',
  discount: 0.9,
  cap: 30,
}

describe('a report', () => {
  it('is a lesson of what the environment is, its checks, its plan and a run', async () => {
    const report = await reportOf(hall)
    expect(checkLesson(JSON.parse(JSON.stringify(report)))).toEqual(report)
    expect(report.views.map(({ scene }) => scene.stage)).toEqual(['build', 'check', 'plan', 'learn'])
    const [what, , plan, run] = report.views
    expect(what.text).toContain('Over the carpet or not?')
    expect(what.text).toContain('Discount 0.9; episodes are cut off after 30 steps.')
    expect(what.text).toContain('..:\n')
    expect(plan.text).toContain('[[start value]]')
    expect(plan.scene.plan).toMatchObject({ method: 'value-iteration', finished: true, discount: 0.9 })
    expect(run.title).toBe('Learned: Q-learning')
    expect(Object.keys(report.environments)).toHaveLength(1)
  })

  it('tells nothing of a truth that is hidden', async () => {
    const bandit = newBandit('Covered')
    const { views } = await reportOf({ ...bandit, bandit: { ...bandit.bandit, hidden: true } })
    expect(views.map(({ scene }) => scene.stage)).toEqual(['build', 'check', 'learn'])
    expect(JSON.stringify(views)).not.toContain('optimal value')
  })

  it('leaves out what is too long to be read on paper', async () => {
    const large = gridDocument(Array.from({ length: 200 }, () => '....'))
    expect((await reportOf(large)).views[0].text).toMatch(/… and \d+ more lines/)
  })

  it('says what Check found, as Markdown that shows it as it is', async () => {
    const text = foundText(checkEnvironmentModel(hall, compileEnvironment(hall)))
    expect(text).toContain('What holds:\n\n- ')
    expect(text).toContain('No error and no warning.')
    const out = gridDocument(['.#.'], { endings: [{ at: 'C1', reward: 4, name: '' }] })
    const wrong = foundText(checkEnvironmentModel(out, compileEnvironment(out)))
    expect(wrong).toMatch(/- error, .*ending/)
    expect(wrong).not.toContain('No error and no warning.')
    expect(text).not.toContain('undefined')
  })

  it('names the first ones of very many findings of a rule, and counts the others', async () => {
    const report = checkEnvironmentModel(hall, compileEnvironment(hall))
    const [one] = report.findings
    const other = { ...one, rule: report.findings.find(({ rule }) => rule !== one.rule)!.rule }
    const told = (count: number) =>
      foundText({
        ...report,
        findings: [...Array<typeof one>(count).fill(one), other],
        proved: [],
        leftOut: [],
      })
        .split('\n')
        .filter((line) => line.startsWith('- '))
    expect(told(6)).toHaveLength(7)
    expect(told(6).join()).not.toContain('more of this kind')
    expect(told(1006)).toHaveLength(8)
    expect(told(1006)[6]).toBe('- and 1\u202f000 more of this kind.')
  })
})
