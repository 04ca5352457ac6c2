import { num, say, type Part } from '../../explain/working'
import { Bounds } from './bounds'
import type { ExplorationKind } from './exploration'

export const countBonus: ExplorationKind = {
  title: 'count-based bonus',
  level: 'Size of the bonus',
  hint: 'Takes the action with the largest value + bonus / √n, where n is how often it was taken in this state: what is new looks better than it is (Strehl & Littman 2008).',
  brief: 'bonus',
  range: { min: 0, max: 1e9, aboveMin: false },
  usual: 1,
  kernels: { leanOneStep: 2 },
  goesByVisits: true,
  forBandits: false,
  create: (parts) => new CountBonus(parts),
}

/** Strehl & Littman 2008, the exploration bonus of MBIE-EB, in the choice of actions only. */
class CountBonus extends Bounds {
  protected override bonus(row: number): number {
    return this.level / Math.sqrt(this.visits[row])
  }

  protected override bonusParts(row: number): Part[] {
    return [num('rate', this.level), say('/ √'), num('plain', this.visits[row])]
  }
}
