import { afterEach, describe, expect, it, vi } from 'vitest'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { kindOf } from '../../core/kinds/kinds'
import { compileEnvironment } from '../../core/environment/compile'
import { checkEnvironment } from '../../core/environment/document'
import { newBandit } from '../../core/kinds/bandit/blank'
import type { BanditEnvironment } from '../../core/kinds/bandit/kind'
import { drawnBandit } from '../../core/kinds/bandit/drawn'
import { meanOf } from '../../core/kinds/bandit/pay-off'
import { tableEnvironment } from '../../core/kinds/table/blank'
import { solveOptimum } from '../../core/plan/solve'
import { gridDocument } from '../../core/testing/models'
import { holds } from '../../hosts/testing/in-process'
import { stateWalked } from '../check/check-session'
import { studyInProcess } from '../testing/study-in-process'
import type { Study } from './study'

const HALL: EnvironmentDocument = {
  ...gridDocument(['....', '.#..', '....'], {
    endings: [{ at: 'D3', reward: 10, name: '' }],
    starts: [{ at: 'A1', weight: 1 }],
    stepReward: -1,
    veer: 0.2,
  }),
  discount: 0.9,
  cap: 60,
  policy: { A1: 'south', A2: 'south' },
}
const stops: (() => void)[] = []
afterEach(() => stops.splice(0).forEach((stop) => stop()))

function open(
  document: EnvironmentDocument = HALL,
  stage: 'build' | 'check' | 'plan' | 'learn' = 'build',
): Study {
  const { study, stop } = studyInProcess(document, stage)
  stops.push(stop)
  return study
}

const withStepReward = (document: EnvironmentDocument, stepReward: number): EnvironmentDocument =>
  document.kind === 'grid' ? { ...document, grid: { ...document.grid, stepReward } } : document
const optimum = (document: EnvironmentDocument) =>
  solveOptimum(compileEnvironment(document).model, document.discount)!

describe('a study whose parts keep up with each other', () => {
  it('plans when Plan is shown, and a finished plan follows every edit and every undo', async () => {
    const { study, plan } = open()
    expect(plan.store.getState().frame).toBeNull()
    study.getState().show('plan')
    await holds(plan.store, ({ frame }) => frame !== null)
    plan.finish()
    await holds(plan.store, ({ frame }) => frame?.finished === true)
    const worth = () => plan.store.getState().frame!.values[0]
    expect(worth()).toBeCloseTo(optimum(HALL).values[0], 8)
    const dear = withStepReward(HALL, -3)
    study.getState().edit(dear)
    await holds(plan.store, ({ frame }) => frame?.finished === true && frame.values[0] < 0)
    expect(worth()).toBeCloseTo(optimum(dear).values[0], 8)
    // What was there before the first change is held, to compare with.
    expect(plan.store.getState().held!.values[0]).toBeCloseTo(optimum(HALL).values[0], 8)
    study.getState().undo()
    await holds(plan.store, ({ frame }) => frame?.finished === true && frame.values[0] > 0)
    expect(worth()).toBeCloseTo(optimum(HALL).values[0], 8)
  })

  it('plans while building only when that is asked for', async () => {
    const { study, plan } = open()
    study.getState().edit(withStepReward(HALL, -2))
    expect(plan.store.getState().frame).toBeNull()
    study.getState().setPlanned(true)
    const { frame } = await holds(plan.store, ({ frame }) => frame?.finished === true)
    expect(frame!.values[0]).toBeCloseTo(optimum(withStepReward(HALL, -2)).values[0], 8)
  })

  it('takes the discount of the document along, unless a stage was set apart', async () => {
    const { study, plan, beside, learn } = open()
    plan.choose({ discount: 0.5 })
    study.getState().edit({ ...HALL, discount: 0.8, cap: 33 })
    expect(plan.store.getState().discount).toBe(0.5)
    expect(beside.store.getState().discount).toBe(0.8)
    expect(learn.store.getState().choice).toMatchObject({ discount: 0.8, cap: 33 })
    study.getState().undo()
    expect(learn.store.getState().choice).toMatchObject({ discount: 0.9, cap: 60 })
    expect(plan.store.getState().discount).toBe(0.5)
  })

  it('evaluates the drawn policy, and anew when a stroke changes it', async () => {
    const { study, plan } = open(HALL, 'plan')
    plan.choose({ method: 'linear-solve', source: 'drawn' })
    plan.finish()
    const before = (await holds(plan.store, ({ frame }) => frame?.finished === true)).frame!.values[0]
    study.getState().edit({ ...HALL, policy: { ...HALL.policy, A1: 'east' } })
    const after = await holds(
      plan.store,
      ({ frame }) => frame?.finished === true && Math.abs(frame.values[0] - before) > 1e-6,
    )
    expect(after.frame!.values[0]).not.toBeCloseTo(before, 6)
  })

  it('keeps a second plan at the backups of the first, with the same discount', async () => {
    const { plan, beside, drive } = open(HALL, 'plan')
    plan.choose({ method: 'value-iteration', discount: 0.7 })
    plan.setBeside('value-iteration-in-place')
    await holds(beside.store, ({ frame }) => frame !== null)
    expect(beside.store.getState()).toMatchObject({ method: 'value-iteration-in-place', discount: 0.7 })
    for (let i = 0; i < 3; i++) drive.step('on', 'sweep')
    const first = await holds(plan.store, ({ frame }) => frame?.sweep === 3)
    const second = await holds(beside.store, ({ frame }) => frame?.backups === first.frame!.backups)
    expect(second.frame!.method).toBe('value-iteration-in-place')
    drive.finish()
    await Promise.all(
      [plan, beside].map(({ store }) => holds(store, ({ frame }) => frame?.finished === true)),
    )
    expect(beside.store.getState().frame!.backups).toBeLessThan(plan.store.getState().frame!.backups)
    drive.toStart()
    await holds(plan.store, ({ frame }) => frame?.sweep === 0)
    await holds(beside.store, ({ frame }) => frame?.backups === 0)
  })

  it('lets the selection go along with single backups, and the working with the selection', async () => {
    const { study, plan, drive, model } = open(HALL, 'plan')
    await holds(plan.store, ({ frame }) => frame !== null)
    drive.step('on', 'backup')
    await holds(plan.store, ({ frame }) => frame?.done === 1)
    const { compiled } = model.store.getState()
    const { frame } = plan.store.getState()
    const cursor = study.getState().cursor!
    expect(compiled!.places!.stateOfPlace[cursor]).toBe(frame!.current)
    // The cell of D1, the fourth of the first row.
    study.getState().select(3)
    await holds(plan.store, ({ frame }) => frame?.working?.title.startsWith('D1') === true)
    study.getState().select(null)
    await holds(plan.store, ({ frame }) => frame?.working === null)
  })

  it('finds the selected state of a table again by its name, or lets it go', () => {
    const rows = (names: string[]): EnvironmentDocument =>
      tableEnvironment(
        'Rooms',
        names.map((name) => [name, 'go', 'out', 1, 1] as const),
      )
    const { study, model } = open(rows(['a', 'b', 'c']))
    const label = () => model.store.getState().compiled!.model.labels[study.getState().cursor!]
    study.getState().select(model.store.getState().compiled!.model.labels.indexOf('b'))
    study.getState().edit(rows(['z', 'a', 'c', 'b']))
    expect(label()).toBe('b')
    study.getState().edit(rows(['z', 'a', 'c']))
    expect(study.getState().cursor).toBeNull()
  })

  it('keeps the last model that was right on the board while the document is wrong', async () => {
    const { study, model } = open({
      ...kindOf({ kind: 'rulebook' }).blank('Rules'),
    })
    await holds(model.store, ({ compiled }) => compiled !== null)
    const good = model.store.getState().compiled
    const document = study.getState().document
    if (document.kind !== 'rulebook') throw new Error('It is a rulebook.')
    study.getState().edit({ ...document, rulebook: { ...document.rulebook, text: 'state x from' } })
    await holds(model.store, ({ problems }) => problems.length > 0)
    expect(model.store.getState().compiled).toBe(good)
    study.getState().undo()
    await holds(model.store, ({ problems }) => problems.length === 0)
  })
})

describe('a run in a study', () => {
  it('begins when Learn is shown, stays when it is left, and begins anew with a new model', async () => {
    const { study, learn } = open()
    expect(learn.store.getState().frame).toBeNull()
    study.getState().show('learn')
    await holds(learn.store, ({ frame }) => frame !== null)
    for (let i = 0; i < 5; i++) learn.step('step')
    await holds(learn.store, ({ frame }) => frame?.steps === 5)
    study.getState().show('plan')
    study.getState().show('learn')
    expect(learn.store.getState().frame!.steps).toBe(5)
    study.getState().edit({ ...HALL, name: 'another name' })
    expect(learn.store.getState().frame!.steps).toBe(5)
    study.getState().edit(withStepReward(HALL, -2))
    await holds(learn.store, ({ frame }) => frame?.steps === 0)
  })

  it('puts the watched trial away as soon as the run goes on, and all trials with a new model', async () => {
    const { study, learn, trials, model } = open(HALL, 'learn')
    await holds(learn.store, ({ frame }) => frame !== null)
    const { compiled } = model.store.getState()
    trials.start(
      compiled!.model,
      { episodes: 5, seed: 1, cap: 60, discount: 0.9 },
      [{ title: 'best', policy: null }],
      [],
    )
    await holds(trials.store, ({ running, contestants }) => !running && contestants.length === 1)
    trials.watch({ model: compiled!.model, title: 'best', number: 2 })
    expect(trials.store.getState().watched!.number).toBe(2)
    learn.step('step')
    await holds(learn.store, ({ frame }) => frame?.steps === 1)
    expect(trials.store.getState().watched).toBeNull()
    expect(trials.store.getState().contestants).toHaveLength(1)
    study.getState().edit(withStepReward(HALL, -2))
    expect(trials.store.getState().contestants).toEqual([])
  })

  it('meets the problem of its seed and number, where every run has its own', async () => {
    const written: BanditEnvironment = {
      ...newBandit('Anew'),
      bandit: {
        ...newBandit('Anew').bandit,
        arms: [1, 2, 3].map((mean, i) => ({
          name: `arm ${i}`,
          pays: [{ type: 'gaussian', mean, deviation: 1 }],
        })),
        anew: 5,
      },
    }
    const best = (seed: number, run: number) =>
      Math.max(...drawnBandit(written.bandit, seed, run).arms.map(({ pays }) => meanOf(pays[0])))
    const { learn, model, seeds } = open(written, 'learn')
    const told = await holds(learn.store, ({ optimum }) => optimum !== null)
    expect(told.optimum!.optimum).toBeCloseTo(best(1, 0), 9)
    expect(told.problem).not.toBe(model.store.getState().compiled!.model)
    learn.choose({ seed: 9, episodes: 20 })
    const other = await holds(learn.store, ({ optimum }) => optimum !== null)
    expect(other.optimum!.optimum).toBeCloseTo(best(9, 0), 9)
    // Runs with many seeds meet one each: what they learned is worth no more than the best arm of theirs.
    seeds.start(model.store.getState().compiled!.model, learn.store.getState().choice, 6, {
      policy: null,
      table: null,
      window: 5,
      document: written,
    })
    const { runs } = await holds(seeds.store, ({ runs, running }) => runs.length === 6 && !running)
    for (const { run, exact } of runs) expect(exact!).toBeLessThanOrEqual(best(9, run) + 1e-9)
    expect(new Set(runs.map(({ exact }) => exact)).size).toBe(6)
  })

  it('gives what it learned to Plan, as a policy to evaluate', async () => {
    const { study, learn, plan } = open(HALL, 'learn')
    learn.choose({ episodes: 777 })
    await holds(learn.store, ({ frame }) => frame !== null)
    learn.setSpeed('flat out')
    learn.run()
    const { frame } = await holds(learn.store, ({ frame }) => frame?.done === true)
    // The curve of exact values ends where the run does.
    expect([frame!.marks.episode.at(-1), frame!.marks.value.at(-1)]).toEqual([777, frame!.exactValue])
    study.getState().show('plan')
    plan.choose({ method: 'linear-solve', source: 'learned' })
    plan.finish()
    const planned = await holds(
      plan.store,
      (state) => state.frame?.finished === true && state.method === 'linear-solve',
    )
    expect([...planned.frame!.policy]).toEqual([...frame!.policy])
  })

  it('stops with the study: nothing is heard of any host afterwards', async () => {
    const all = open(HALL, 'learn')
    await holds(all.learn.store, ({ frame }) => frame !== null)
    all.learn.choose({ episodes: 100_000 })
    all.learn.run()
    await holds(all.learn.store, ({ frame }) => frame !== null && frame.steps > 0)
    stops.splice(0).forEach((stop) => stop())
    const { steps } = all.learn.store.getState().frame!
    all.study.getState().edit(withStepReward(HALL, -2))
    await new Promise((resolve) => setTimeout(resolve, 60))
    expect(all.learn.store.getState().frame!.steps).toBe(steps)
    expect(all.plan.store.getState().frame).toBeNull()
  })
})

describe('Check', () => {
  it('follows every change, and says what broke', async () => {
    const { study, check } = open()
    await holds(check.store, ({ report, stale }) => report !== null && !stale)
    const errors = () =>
      check.store.getState().report!.findings.filter(({ severity }) => severity === 'error')
    expect(errors()).toEqual([])
    // Walls around the start: no ending can be reached.
    study
      .getState()
      .edit({ ...HALL, grid: { ...HALL.grid, floor: ['.#..', '##..', '....'] } } as EnvironmentDocument)
    expect(check.store.getState().stale).toBe(true)
    await holds(check.store, ({ stale, progress }) => !stale && !progress)
    expect(errors().map(({ rule, where }) => [rule, where])).toEqual([['trap', 'A1']])
    study.getState().undo()
    await holds(check.store, ({ stale, progress }) => !stale && !progress)
    expect(errors()).toEqual([])
  })

  it('looks at the finding that the address asks for, once, and says when it is gone', async () => {
    vi.stubGlobal('location', { href: 'https://here.example/environment/e/check?finding=returns' })
    const { check } = open(HALL, 'check')
    vi.stubGlobal('location', { href: 'https://here.example/environment/e/check?finding=trap.7' })
    const other = open(HALL, 'check').check
    vi.unstubAllGlobals()
    const { report, chosen, missing } = await holds(check.store, (state) => state.chosen !== null)
    expect(report!.findings[chosen!].rule).toBe('returns')
    expect(missing).toBeNull()
    await holds(other.store, (state) => state.missing === 'trap.7')
    expect(other.store.getState().chosen).toBeNull()
    // Looking at another one puts the notice away.
    other.choose(0)
    expect(other.store.getState()).toMatchObject({ chosen: 0, missing: null })
  })

  it('takes an action by a click on where it leads, and the selection follows the agent', async () => {
    const { study, check, model } = open(HALL, 'check')
    const { compiled } = await holds(model.store, ({ compiled: made }) => made !== null)
    const labels = compiled!.model.labels
    const at = () => labels[stateWalked(compiled!.model, check.store.getState())!]
    const cell = (name: string) => compiled!.places!.placeOfState[labels.indexOf(name)]
    expect([at(), study.getState().cursor]).toEqual(['A1', cell('A1')])
    study.getState().select(cell('A2'))
    expect(check.store.getState().hand.moves).toHaveLength(1)
    expect(study.getState().cursor).toBe(cell(at()))
    // Too far for one step: it is selected, and nothing happens.
    study.getState().select(cell('D3'))
    expect(check.store.getState().hand.moves).toHaveLength(1)
    expect(study.getState().cursor).toBe(cell('D3'))
  })

  it('carries an episode by hand over to what the environment becomes', async () => {
    const { study, check, model } = open(HALL, 'check')
    const { compiled } = await holds(model.store, ({ compiled: made }) => made !== null)
    const south = compiled!.model.actions.indexOf('south')
    check.act(south)
    check.act(south)
    expect(check.store.getState()).toMatchObject({ at: 2, walked: { kind: 'hand' } })
    study.getState().edit({ ...HALL, grid: { ...HALL.grid, moves: 8 } } as EnvironmentDocument)
    await holds(model.store, (state) => state.compiled !== compiled)
    const after = model.store.getState().compiled!.model
    const { hand, played } = check.store.getState()
    expect(hand.moves.map(({ action }) => after.actions[action])).toEqual(['south', 'south'])
    expect(after.outcomes).toBeGreaterThan(played!.walk.outcomes[1])
    // The step limit shortens it.
    study.getState().edit({ ...HALL, cap: 1 } as EnvironmentDocument)
    await holds(check.store, ({ played: now }) => now?.walk.outcomes.length === 1)
    expect(check.store.getState().played!.over).toBe('cut off')
  })

  it('goes back and takes another way, forces an outcome, and walks a story', async () => {
    const { check, model, study } = open(HALL, 'check')
    const { compiled } = await holds(model.store, ({ compiled: made }) => made !== null)
    const { actions, labels, outcomeState } = compiled!.model
    const act = (name: string, forced: number | null = null) => check.act(actions.indexOf(name), forced)
    act('south')
    act('south')
    act('east')
    check.go(1)
    expect(check.store.getState().at).toBe(1)
    act('north')
    const { hand, played } = check.store.getState()
    expect(hand.moves.map(({ action }) => actions[action])).toEqual(['south', 'north'])
    expect(played!.walk.outcomes).toHaveLength(2)
    check.begin(labels.indexOf('C3'))
    const row = compiled!.model.rowStart[labels.indexOf('C3')]
    const last = compiled!.model.outcomeStart[row + 1] - 1
    check.act(compiled!.model.rowAction[row], last)
    expect(check.store.getState().played!.at).toBe(outcomeState[last])
    await holds(check.store, ({ report, stale }) => report !== null && !stale)
    const { findings } = check.store.getState().report!
    const story = findings.findIndex(({ walk }) => walk !== null)
    check.choose(story)
    expect(check.store.getState()).toMatchObject({ chosen: story, walked: { kind: 'story' } })
    check.choose(story)
    expect(check.store.getState()).toMatchObject({ chosen: null, walked: { kind: 'hand' }, at: 1 })
    // A change takes one back to the episode by hand, to where it stands.
    const longest = findings.reduce(
      (best, { walk }, i) =>
        (walk?.outcomes.length ?? 0) > (findings[best].walk?.outcomes.length ?? 0) ? i : best,
      0,
    )
    check.choose(longest)
    expect(check.store.getState().at).toBeGreaterThan(1)
    study.getState().edit({ ...HALL, discount: 0.5 } as EnvironmentDocument)
    expect(check.store.getState()).toMatchObject({ walked: { kind: 'hand' }, at: 1 })
  })

  it('can be stopped, and taken up again', async () => {
    const { check, model } = open(HALL, 'check')
    await holds(model.store, ({ compiled }) => compiled !== null)
    await holds(check.store, ({ progress }) => progress !== null)
    check.stop()
    expect(check.store.getState()).toMatchObject({ progress: null, stopped: true, report: null })
    check.again()
    const { stopped, report } = await holds(check.store, (state) => state.report !== null)
    expect([stopped, report!.states > 0]).toEqual([false, true])
  })

  it('draws on demand, and forgets what came of it with the model', async () => {
    const { check, study } = open(HALL, 'check')
    await holds(check.store, ({ report }) => report !== null)
    check.sample()
    expect(check.store.getState().drawing).toBe(true)
    const { sampling } = await holds(check.store, (state) => state.sampling !== null)
    expect(sampling!.disagreements).toEqual([])
    study.getState().edit({ ...HALL, discount: 0.5 } as EnvironmentDocument)
    expect(check.store.getState().sampling).toBeNull()
  })

  it('of a document without a model the faults are told, with their story', async () => {
    const document = checkEnvironment({
      format: 'jaunty-pawn/environment',
      version: 2,
      kind: 'rulebook',
      name: 'Lamps',
      rulebook: {
        text: 'state lamps from 0 to 2\nstart lamps = 2\naction light\nnext lamps = lamps - 1\n',
        knobs: {},
      },
    })
    const { check } = open(document)
    const { report } = await holds(check.store, ({ report: made }) => made !== null)
    expect(report!.findings.map(({ rule, path }) => [rule, path.length])).toEqual([['bounds', 3]])
  })
})
