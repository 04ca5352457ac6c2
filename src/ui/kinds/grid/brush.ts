import { create } from 'zustand'
import type { Direction } from '../../../core/kinds/grid/directions'
import type { Brush, Region } from '../../../core/kinds/grid/edit'
import type { Patch } from '../../../core/kinds/grid/transform'

/** How a stroke covers the board. */
export const SHAPES = {
  freehand: { title: 'Freehand', key: 'f', says: 'Paints the cells one drags over.' },
  line: { title: 'Line', key: 'i', says: 'A straight line from where the drag begins to where it ends.' },
  rectangle: { title: 'Box', key: 'r', says: 'All cells of the box one drags out.' },
  fill: { title: 'Fill', key: 'u', says: 'The cell and all of its kind that hang together with it.' },
  mark: { title: 'Mark', key: 'm', says: 'Marks a part of the board, to copy and paste.' },
} as const
export type Shape = keyof typeof SHAPES

/** Every tool with its key and what it paints, in a sentence; grounds come on top. */
export const TOOLS = {
  wall: { title: 'Wall', key: 'w', says: 'No move leads into it.' },
  erase: { title: 'Erase', key: 'e', says: 'Takes everything off a cell.' },
  start: {
    title: 'Start',
    key: 's',
    says: 'An episode begins here; of several starts one is drawn by weight.',
  },
  ending: { title: 'Ending', key: 'd', says: 'An episode ends here and earns a reward.' },
  bonus: {
    title: 'Bonus',
    key: 'b',
    says: 'A reward for coming to the cell, once an episode or every time.',
  },
  sendBack: {
    title: 'Send-back',
    key: 'h',
    says: 'Sends the agent to a start or to another cell, with a reward; the episode goes on.',
  },
  draught: {
    title: 'Draught',
    key: 'a',
    says: 'May carry whoever is in the cell some cells on, in its direction.',
  },
  jump: { title: 'Jump', key: 'j', says: 'Whoever comes to the cell goes on from another one.' },
  token: {
    title: 'Token',
    key: 'k',
    says: 'Picked up by coming to the cell: the agent then holds it, which is part of the state.',
  },
  gate: { title: 'Gate', key: 'l', says: 'Lets only those pass who hold its token.' },
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
