import { create } from 'zustand'
import type { Direction } from '../../../core/kinds/grid/directions'
import type { Brush, Region } from '../../../core/kinds/grid/edit'
import type { Patch } from '../../../core/kinds/grid/transform'

/** How a stroke covers the board. */
export const SHAPES = {
  freehand: { title: 'Freehand', key: 'f' },
  line: { title: 'Line', key: 'i' },
  rectangle: { title: 'Box', key: 'r' },
  fill: { title: 'Fill', key: 'u' },
  mark: { title: 'Mark', key: 'm' },
} as const
export type Shape = keyof typeof SHAPES

/** Every tool with its key; grounds come on top. */
export const TOOLS = {
  wall: { title: 'Wall', key: 'w' },
  erase: { title: 'Erase', key: 'e' },
  start: { title: 'Start', key: 's' },
  ending: { title: 'Ending', key: 'd' },
  bonus: { title: 'Bonus', key: 'b' },
  sendBack: { title: 'Send-back', key: 'h' },
  draught: { title: 'Draught', key: 'a' },
  jump: { title: 'Jump', key: 'j' },
  token: { title: 'Token', key: 'k' },
  gate: { title: 'Gate', key: 'l' },
} as const
export type Tool = keyof typeof TOOLS | 'ground'

/** The tool in hand, the same for every grid: kept while one moves between them. */
interface BrushState {
  readonly tool: Tool
  readonly shape: Shape
  /** Of the ground to paint. */
  readonly symbol: string
  readonly weight: number
  /** Of what is painted next, by tool. */
  readonly rewards: Readonly<Record<'ending' | 'bonus' | 'sendBack' | 'token', number>>
  readonly once: boolean
  readonly toward: Direction
  readonly strength: number
  readonly chance: number
  readonly gateToken: string
  readonly region: Region | null
  readonly copied: Patch | null
  pick(tool: Tool, symbol?: string): void
  set(part: Partial<Omit<BrushState, 'pick' | 'set' | 'brush'>>): void
  /** @param to  the cell a jump or a send-back leads to; none for one that leads to a start */
  brush(to: string | null): Brush | undefined
}

export const useBrush = create<BrushState>()((set, get) => ({
  tool: 'wall',
  shape: 'freehand',
  symbol: ':',
  weight: 1,
  rewards: { ending: 10, bonus: 5, sendBack: -5, token: 0 },
  once: true,
  toward: 'east',
  strength: 1,
  chance: 1,
  gateToken: '',
  region: null,
  copied: null,
  pick: (tool, symbol) =>
    set({
      tool,
      ...(symbol === undefined ? {} : { symbol }),
      // Who takes a tool wants to paint with it.
      ...(get().shape === 'mark' ? { shape: 'freehand', region: null } : {}),
    }),
  set: (part) => set(part),
  brush(to) {
    const { tool, symbol, weight, rewards, once, toward, strength, chance, gateToken } = get()
    switch (tool) {
      case 'wall':
      case 'erase':
        return { type: tool }
      case 'ground':
        return { type: tool, symbol }
      case 'start':
        return { type: tool, weight }
      case 'ending':
      case 'token':
        return { type: tool, reward: rewards[tool] }
      case 'bonus':
        return { type: tool, reward: rewards.bonus, once }
      case 'sendBack':
        return { type: tool, reward: rewards.sendBack, to }
      case 'draught':
        return { type: tool, toward, strength, chance }
      case 'jump':
        return to === null ? undefined : { type: tool, to }
      case 'gate':
        return { type: tool, token: gateToken }
    }
  },
}))
