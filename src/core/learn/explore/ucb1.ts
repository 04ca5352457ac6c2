import { num, say, type Part } from '../../explain/working'
import { logarithm } from '../../random/logarithm'
import { Bounds } from './bounds'
import type { ExplorationKind } from './exploration'

export const ucb1: ExplorationKind = {
  title: 'upper confidence bound (UCB1)',
  level: 'Confidence width',
  hint: 'Takes the action with the largest value + width × √(2 ln t / n), where n is how often it was taken and t how often all were. With width 1, for rewards from 0 to 1, its regret grows like the logarithm (Auer, Cesa-Bianchi & Fischer 2002).',
  brief: 'UCB1, width',
  range: { min: 0, max: 1e6, aboveMin: false },
  usual: 1,
  kernels: { leanOneStep: 1 },
  goesByVisits: true,
  forBandits: false,
  create: (parts) => new Ucb1(parts),
}

/** Auer, Cesa-Bianchi & Fischer 2002, figure 1 */
class Ucb1 extends Bounds {
  protected override bonus(row: number, total: number): number {
    return this.level * Math.sqrt((2 * logarithm(total)) / this.visits[row])
  }

  protected override bonusParts(row: number, total: number): Part[] {
    return [
      num('rate', this.level),
      say('× √(2 ln'),
      num('plain', total),
      say('/'),
      num('plain', this.visits[row]),
      say(')'),
    ]
  }
}
