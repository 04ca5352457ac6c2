import { describe, expect, it } from 'vitest'
import { randomPolicy } from '../../core/plan/evaluate'
import { solveOptimum } from '../../core/plan/solve'
import { gridModel } from '../../core/testing/models'
import type { LearnFrame } from '../../hosts/protocol/learn'
import type { PlanFrame } from '../../hosts/protocol/plan'
import { LAYER_NAMES, type Layer, type View } from '../../core/lesson/names'
import { NOTHING_SHOWN, type ShownOverlay } from '../board/overlay'
import type { LayerSource } from './layer'
import { lay, layerView, offeredLayers } from './layers'

const model = gridModel(['...', '.#.'], {
  endings: [{ at: 'C1', reward: 10, name: '' }],
  starts: [{ at: 'A1', weight: 1 }],
})
const { values: best } = solveOptimum(model, 0.9)!
const zeros = () => new Float64Array(model.states)
const rows = () => new Float64Array(model.rows)

const plan = (part: Partial<PlanFrame> = {}, held = false): LayerSource => ({
  of: 'plan',
  model,
  frame: {
    sweep: 2,
    values: best,
    before: zeros(),
    rowValues: rows(),
    policy: randomPolicy(model),
    policyBefore: rows(),
    ...part,
  } as PlanFrame,
  held: held ? { model, values: zeros(), policy: rows() } : null,
})
const run = (part: Partial<LearnFrame> = {}, rest: object = {}): LayerSource => ({
  of: 'run',
  model,
  frame: { values: zeros(), moved: null, traces: null, ...part } as LearnFrame,
  predicts: false,
  optimum: undefined,
  before: null,
  covered: false,
  ...rest,
})
const shown: ShownOverlay = {
  ...NOTHING_SHOWN,
  overlay: { values: best, rowValues: rows(), policy: randomPolicy(model) },
}
const on = (source: LayerSource, ...layers: Layer[]) => lay(shown, new Set(layers), source)

describe('which layers can be chosen', () => {
  const offered = (source: LayerSource, view: View = 'board', without: Layer[] = []) =>
    offeredLayers(without, source, view)

  it('is a matter of what there is: a plan to compare with, an optimum, traces', () => {
    expect(offered(plan())).toEqual(['values', 'policy', 'actionValues', 'changes'])
    expect(offered(plan({}, true))).toContain('difference')
    expect(offered(run())).toEqual(['values', 'policy', 'actionValues', 'visits', 'changes'])
    expect(offered(run({ traces: rows() }))).toContain('traces')
    expect(offered(run({}, { optimum: best }))).toContain('distance')
    // The distance from the optimum would tell a class what is hidden from it.
    expect(offered(run({}, { optimum: best, covered: true }))).not.toContain('distance')
  })

  it('leaves out what a board has no place for, and what a horizon has none of', () => {
    expect(offered(run(), 'board', ['values', 'changes'])).toEqual(['policy', 'actionValues', 'visits'])
    expect(offered(plan({}, true), 'horizon')).toEqual(['values', 'policy'])
  })

  it('has a title for each', () => {
    const titles = LAYER_NAMES.map((name) => layerView(name).title)
    expect(new Set(titles).size).toBe(LAYER_NAMES.length)
    const preferences = { ...shown, titles: { values: 'v', rows: 'preferences' } }
    expect(layerView('actionValues').titleFor!(preferences)).toBe('Preferences')
    expect(layerView('actionValues').titleFor!(shown)).toBe('Action values')
  })
})

describe('what layers lay over the board', () => {
  it('is nothing more where only those are on that show what is there', () => {
    expect(on(plan(), 'values', 'policy', 'actionValues', 'visits')).toBe(shown)
  })

  it('what changed: by how much each value moved, and the needles that were', () => {
    const { overlay } = on(plan(), 'changes')
    expect(overlay!.moved).toEqual(best)
    expect(overlay!.was).toEqual(rows())
    expect(overlay!.values).toBe(best)
    // Before the first sweep nothing has changed.
    expect(on(plan({ sweep: 0 }), 'changes')).toBe(shown)
    const moved = zeros().fill(2)
    expect(on(run({ moved }), 'changes').overlay!.moved).toBe(moved)
    expect(lay(NOTHING_SHOWN, new Set(['changes']), plan())).toBe(NOTHING_SHOWN)
  })

  it('the difference: this plan minus the one that is held, and where the best actions are others', () => {
    const source = plan({}, true)
    const { overlay, titles } = on(source, 'difference')
    // Endings decide nothing and are worth 0 in every plan.
    expect([...overlay!.values!]).toEqual(
      [...best].map((value, s) => (model.labels[s] === 'C1' ? NaN : value)),
    )
    expect(titles.values).toBe('value now minus value kept')
    expect(overlay!.turned!.length).toBe(model.states)
    // Asked twice, it is compared once.
    expect(on(source, 'difference').overlay!.values).toBe(overlay!.values)
    expect(on(plan(), 'difference')).toBe(shown)
  })

  it('the distance: what a run has learned minus what is best, or minus the exact values of its policy', () => {
    const values = zeros().fill(1)
    const off = on(run({ values }, { optimum: best }), 'distance')
    expect([...off.overlay!.values!]).toEqual([...best].map((value) => 1 - value))
    expect(off.titles.values).toBe('value minus the optimal one')
    const predicted = on(run({ values }, { optimum: best, predicts: true }), 'distance')
    expect(predicted.titles.values).toBe('value minus the exact one')
    expect(on(run({ values }, { optimum: best, covered: true }), 'distance')).toBe(shown)
    expect(on(run({ values }), 'distance')).toBe(shown)
  })

  it('traces: of each state, summed over its actions, and nothing where there is none', () => {
    const traces = rows()
    traces[0] = 0.5
    traces[1] = 0.25
    const byRows = on(run({ traces }), 'traces').overlay!.values!
    expect(byRows[0]).toBe(0.75)
    expect(byRows[1]).toBeNaN()
    const ofStates = zeros()
    ofStates[2] = 1
    const byStates = on(run({ traces: ofStates }), 'traces')
    expect(byStates.overlay!.values![2]).toBe(1)
    expect(byStates.overlay!.values![0]).toBeNaN()
    expect(byStates.titles.values).toBe('trace')
    expect(on(plan(), 'traces')).toBe(shown)
  })
})
