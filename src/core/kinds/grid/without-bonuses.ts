import type { GridEnvironment } from './kind'
import { shapedModel } from '../../plan/shaping'
import type { Model } from '../../model/model'
import { parseCellName } from './cells'
import { compileGrid, type GridLayout } from './compile'
import { onceBonusBits } from './dynamics'

/** What can be done with the bonuses of a grid to see whether they bend the best policy. */
export const BONUS_QUESTIONS = {
  nothing: 'the same, bonuses paying nothing',
  potential: 'the same, bonuses as a potential',
} as const
export type BonusQuestion = keyof typeof BONUS_QUESTIONS

/**
 * The model of a grid with its bonuses paid otherwise; the states are the same. `nothing`: they stay, but pay 0.
 * `potential`: a bonus is paid for what has been gained so far and taken back when that is lost, at the end at
 * the latest (see `shapedModel`), so that the best policy is that of `nothing`.
 */
export function gridWithBonuses(document: GridEnvironment, question: BonusQuestion): Model {
  const { grid, cap, discount } = document
  const plain = compileGrid({ ...grid, bonuses: grid.bonuses.map((bonus) => ({ ...bonus, reward: 0 })) }, cap)
  return question === 'nothing'
    ? plain.model
    : shapedModel(plain.model, bonusPotential(document, plain), discount)
}

/**
 * [states] what has been gained so far: the reward of a bonus that pays every time in its cell, and of one that pays
 * once wherever it is spent.
 */
function bonusPotential(
  { grid }: GridEnvironment,
  { model, layout }: { model: Model; layout: GridLayout },
): Float64Array {
  const potential = new Float64Array(model.states)
  const bits = onceBonusBits(grid)
  grid.bonuses.forEach(({ at, reward }, i) => {
    const spent = bits[i]
    const { column, row } = parseCellName(at)!
    const cell = row * layout.columns + column
    for (const { held, stateOfCell } of layout.slices)
      if (spent !== undefined) {
        if (held & spent) for (const s of stateOfCell) if (s >= 0) potential[s] += reward
      } else if (stateOfCell[cell] >= 0) potential[stateOfCell[cell]] += reward
  })
  return potential
}
