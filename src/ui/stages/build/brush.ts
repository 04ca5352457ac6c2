import { create } from 'zustand'
import type { Brush } from '../../../core/grid/edit'

/** The tool in hand, the same for every grid: kept while one moves between them. */
interface BrushState {
  readonly tool: Brush['type']
  /** Of the ground to paint. */
  readonly symbol: string
  /** Of the ending to paint. */
  readonly reward: number
  pick(tool: Brush['type'], symbol?: string): void
  setReward(reward: number): void
  brush(): Brush
}

export const useBrush = create<BrushState>()((set, get) => ({
  tool: 'wall',
  symbol: ':',
  reward: 10,
  pick: (tool, symbol) => set(symbol === undefined ? { tool } : { tool, symbol }),
  setReward: (reward) => set({ reward, tool: 'ending' }),
  brush() {
    const { tool, symbol, reward } = get()
    if (tool === 'ground') return { type: tool, symbol }
    if (tool === 'ending') return { type: tool, reward }
    return { type: tool }
  },
}))
