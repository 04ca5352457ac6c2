import type { EnvironmentDocument } from './document'

/**
 * About how much work it is to compile a document, in outcomes of its model, without compiling it; infinity for a rulebook, whose
 * states nobody knows beforehand. Good for deciding where to compile, for nothing else.
 */
export function roughOutcomes(document: EnvironmentDocument): number {
  switch (document.kind) {
    case 'grid': {
      const { floor, tokens, bonuses, moves } = document.grid
      const held = tokens.length + bonuses.filter(({ once }) => once).length
      return floor.length * floor[0].length * moves * 3 * 2 ** held
    }
    case 'bandit': {
      const { arms, contexts, pulls } = document.bandit
      return arms.length * Math.max(1, contexts.length) ** 2 * pulls * 32
    }
    case 'table':
      // Names are looked up for every row.
      return 6 * document.table.transitions.length
    case 'rulebook':
      return Infinity
  }
}
