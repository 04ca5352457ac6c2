import { stateOfRow, type Model } from '../../model/model'
import type { Happening, Happenings, RewardPart } from '../happening'
import { cellName } from './cells'
import { actionsOf, veerChances, type GridLayout } from './compile'
import { DIRECTION_NAMES, STAY } from './directions'
import type { Grid, Ground } from './document'
import { GridDynamics } from './dynamics'

/** The ways in which moves of a grid can go: as they were meant, to a side, back, or not at all; then what floors do. */
export function gridHappenings(
  grid: Grid,
  { model, layout }: { readonly model: Model; readonly layout: GridLayout },
): Happenings {
  const dynamics = new GridDynamics(grid)
  dynamics.told = true
  const veers = veerChances(grid)
  const ways = actionsOf(grid)
  const turn = grid.moves === 8 ? 1 : 2
  const sliceOf = new Map(layout.slices.map((slice) => [slice.held, slice]))
  const named = new Map(payingThings(grid).map(({ at, title }) => [dynamics.at(at), title]))
  return (row) => {
    const state = stateOfRow(model, row)
    const cell = layout.cellOfState[state]
    const { held } = layout.slices[layout.sliceOfState[state]]
    const direction = ways[model.rowAction[row]]
    const found: Happening[] = []
    const collect = (probability: number, moved: string, instead: string | null) => {
      for (let i = 0; i < dynamics.count; i++) {
        if (!(probability * dynamics.probability[i] > 0)) continue
        const landed = dynamics.cell[i]
        const lands = `comes to ${cellName(landed % layout.columns, Math.floor(landed / layout.columns))}`
        found.push({
          probability: probability * dynamics.probability[i],
          fell: [moved, dynamics.count > 1 ? lands : ''].filter(Boolean).join(', '),
          drawn: [],
          next: sliceOf.get(dynamics.held[i])!.stateOfCell[landed],
          parts: partsOf(dynamics, i, named),
          instead,
        })
      }
    }
    const go = (toward: number, probability: number, moved: string) => {
      if (probability <= 0) return
      const index = (toward + 8) % 8
      dynamics.move(cell, held, index)
      collect(probability, moved, index === direction ? null : DIRECTION_NAMES[index])
    }
    if (direction !== null) {
      const veer = veers.get(dynamics.groundAt(cell).symbol)!
      const chancy = veer > 0 || grid.stall > 0 || grid.reverse > 0
      const left = (direction - turn + 8) % 8
      const right = (direction + turn) % 8
      go(direction, 1 - veer - grid.stall - grid.reverse, chancy ? 'goes as meant' : '')
      go(left, veer / 2, `veers ${DIRECTION_NAMES[left]}`)
      go(right, veer / 2, `veers ${DIRECTION_NAMES[right]}`)
      go(direction + 4, grid.reverse, 'goes the opposite way')
    }
    const still = direction === null ? 1 : grid.stall
    if (still > 0) {
      dynamics.rest(cell, held)
      collect(still, direction === null ? '' : 'does not move', direction === null ? null : STAY)
    }
    return found
  }
}

/** The things that pay those who enter them, with what each is called. */
function payingThings(
  grid: Grid,
): { readonly at: string; readonly reward: number; readonly title: string }[] {
  const { endings, bonuses, sendBacks, tokens } = grid
  return [
    ...endings.map(({ at, reward, name }) => ({ at, reward, title: `${name || 'ending'} ${at}` })),
    ...bonuses.map(({ at, reward, name }) => ({ at, reward, title: `${name || 'bonus'} ${at}` })),
    ...sendBacks.map(({ at, reward, name }) => ({ at, reward, title: `${name || 'send-back'} ${at}` })),
    ...tokens.map(({ at, reward, name }) => ({ at, reward, title: `${name} ${at}` })),
  ]
}

/** What parts of rewards are called: of the step, of grounds that cost, and of things that pay. */
export function gridRewardTitles(grid: Grid): string[] {
  return [
    ...(grid.stepReward === 0 ? [] : [STEP]),
    ...grid.grounds.flatMap((ground) => (usedCost(grid, ground) ? [groundTitle(ground)] : [])),
    ...payingThings(grid).flatMap(({ reward, title }) => (reward === 0 ? [] : [title])),
  ]
}

/** Whether a ground costs something and lies on the floor. */
function usedCost({ floor }: Grid, { symbol, cost }: Ground): boolean {
  return cost !== 0 && floor.some((row) => row.includes(symbol))
}

function groundTitle({ name }: Ground): string {
  return `ground ${name}`
}

const STEP = 'step'

/** What the i-th result of a move pays: for the step, for the ground it ends on, and for what was entered. */
function partsOf(dynamics: GridDynamics, i: number, named: ReadonlyMap<number, string>): RewardPart[] {
  const { step, ground } = dynamics.paid(i)
  return [
    { title: STEP, amount: step },
    { title: groundTitle(dynamics.groundAt(dynamics.cell[i])), amount: ground },
    ...dynamics.entered[i].map(({ cell, reward }) => ({ title: named.get(cell)!, amount: reward })),
  ].filter(({ amount }) => amount !== 0)
}
