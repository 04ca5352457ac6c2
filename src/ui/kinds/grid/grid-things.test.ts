import { beforeEach, describe, expect, it } from 'vitest'
import { checkGrid } from '../../../core/kinds/grid/check-grid'
import { emptyGrid } from '../../../core/kinds/grid/empty-grid'
import { paintCell } from '../../../core/kinds/grid/edit'
import { PLAIN_GRID, THING_LISTS, type Grid } from '../../../core/kinds/grid/document'
import { SvgPen } from '../../board/svg-pen'
import { SHAPES, TOOLS, useBrush, type Tool } from './brush'
import { drawThings, thingsAt } from './grid-things'

const GRID: Grid = {
  ...PLAIN_GRID,
  floor: ['.....', '.....'],
  grounds: [{ symbol: '.', name: 'parquet', cost: 0, veer: null }],
  starts: [
    { at: 'A1', weight: 1 },
    { at: 'A2', weight: 3 },
  ],
  endings: [{ at: 'E1', reward: -20, name: 'stairs' }],
  bonuses: [
    { at: 'B1', reward: 5, once: true, name: 'bust' },
    { at: 'B2', reward: 2, once: false, name: '' },
  ],
  sendBacks: [{ at: 'C1', reward: -4, to: 'A1', name: 'wet floor' }],
  jumps: [{ at: 'C2', to: 'E2' }],
  tokens: [{ at: 'D1', name: 'key', reward: 1 }],
  gates: [{ at: 'D2', token: 'key' }],
  draughts: [{ at: 'A1', toward: 'east', strength: 2, chance: 0.5 }],
}

function drawn(part: Partial<Grid>, side = 60, small = false, agent?: number): string {
  const pen = new SvgPen()
  const bare = Object.fromEntries(THING_LISTS.map((list) => [list, []]))
  const centre = (cell: number): [number, number] => [
    ((cell % 5) + 0.5) * side,
    (Math.floor(cell / 5) + 0.5) * side,
  ]
  drawThings(pen, { ...GRID, ...bare, ...part }, side, centre, { small, agent })
  return pen.svg(5 * side, 2 * side, '')
}

describe('what lies on the cells', () => {
  it('is told apart by its picture, and has its number where there is room', () => {
    const pictures = THING_LISTS.map((list) => drawn({ [list]: GRID[list] }))
    expect(new Set(pictures).size).toBe(THING_LISTS.length)
    const numbers: Partial<Record<(typeof THING_LISTS)[number], string[]>> = {
      endings: ['−20'],
      bonuses: ['+5', '+2'],
      sendBacks: ['−4'],
      tokens: ['+1', 'Ke'],
      gates: ['Ke'],
    }
    THING_LISTS.forEach((list, i) => {
      const texts = [...pictures[i].matchAll(/>([^<>]+)<\/text>/g)].map(([, text]) => text)
      expect(texts.sort()).toEqual((numbers[list] ?? []).sort())
      expect(pictures[i]).not.toMatch(/NaN|undefined/)
    })
  })

  it('keeps to a corner under numbers and needles; there only endings say their reward', () => {
    const small = drawn(GRID, 60, true)
    const texts = [...small.matchAll(/>([^<>]+)<\/text>/g)].map(([, text]) => text)
    expect(texts).toContain('−20')
    for (const text of ['+5', '+2', '−4', '+1']) expect(texts).not.toContain(text)
    // The lozenge of B1 (centre 90, 30) lies in the upper left quarter of its cell.
    const [bonus] = drawn({ bonuses: GRID.bonuses.slice(0, 1) }, 60, true).match(/points="[^"]+"/)!
    const points = bonus.match(/[\d.]+/g)!.map(Number)
    points.forEach((value, i) => expect(value).toBeLessThan(i % 2 === 0 ? 90 : 30))
  })

  it('blows as many chevrons as it carries cells, paler the less often', () => {
    const chevrons = (strength: number, chance: number) =>
      drawn({ draughts: [{ at: 'B1', toward: 'south', strength, chance }] })
    for (const strength of [1, 2, 3]) expect(chevrons(strength, 1).match(/<line/g)).toHaveLength(2 * strength)
    const opacity = (chance: number) => Number(/opacity="([\d.]+)"/.exec(chevrons(1, chance))![1])
    expect(opacity(0.2)).toBeLessThan(opacity(0.8))
    // Southward the tips lie below the tails, at half the width of the cell.
    const [, x1, y1, x2, y2] = /x1="([\d.]+)" y1="([\d.]+)" x2="([\d.]+)" y2="([\d.]+)"/
      .exec(chevrons(1, 1))!
      .map(Number)
    expect(y2).toBeGreaterThan(y1)
    expect(x2).toBeCloseTo(90, 6)
    expect(x1).not.toBeCloseTo(90, 6)
  })

  it('leads from a jump to its cell by a dashed line, and nowhere from a jump onto itself', () => {
    const way = drawn({ jumps: [{ at: 'A1', to: 'E1' }] })
    expect(way.match(/<line/g)!.length).toBeGreaterThan(5)
    expect(drawn({ jumps: [{ at: 'A1', to: 'A1' }] })).not.toContain('<line')
  })

  it('hides the ring of the start under the agent, and draws tiny cells as endings only', () => {
    const starts = GRID.starts.slice(0, 1)
    expect(drawn({ starts }, 60, false, 0)).not.toBe(drawn({ starts }))
    expect(drawn({ starts }, 60, false, 0)).toBe(drawn({}))
    expect(drawn(GRID, 4).match(/<rect/g)).toHaveLength(1)
    for (const side of [1, 6, 7, 9, 15, 21, 40]) expect(drawn(GRID, side)).not.toMatch(/NaN|undefined/)
  })

  it('is said in words', () => {
    const format = (value: number) => value.toFixed(2)
    expect(thingsAt(GRID, 'A1', format)).toEqual([
      'start, chance 0.25',
      'draught to the east, carries 2 with chance 0.50',
    ])
    expect(thingsAt(GRID, 'A2', format)).toEqual(['start, chance 0.75'])
    expect(thingsAt({ ...GRID, starts: [{ at: 'A2', weight: 3 }] }, 'A2', format)).toEqual(['start'])
    expect(thingsAt(GRID, 'E1', format)).toEqual(['ending “stairs”, reward −20'])
    expect(thingsAt(GRID, 'B1', format)).toEqual(['bonus “bust” +5, once an episode'])
    expect(thingsAt(GRID, 'B2', format)).toEqual(['bonus +2, every time'])
    expect(thingsAt(GRID, 'C1', format)).toEqual(['send-back “wet floor”, reward −4, to A1'])
    expect(thingsAt(GRID, 'C2', format)).toEqual(['jump to E2'])
    expect(thingsAt(GRID, 'D1', format)).toEqual(['token “key”, reward +1'])
    expect(thingsAt(GRID, 'D2', format)).toEqual(['gate, opened by key'])
    expect(thingsAt(GRID, 'E2', format)).toEqual([])
  })
})

describe('the tool in hand', () => {
  beforeEach(() => useBrush.setState(useBrush.getInitialState()))
  const { pick, set } = useBrush.getState()

  it('paints what its name says, with the numbers that are set', () => {
    const tools: Readonly<Record<Exclude<Tool, 'wall' | 'erase' | 'ground'>, keyof Grid>> = {
      start: 'starts',
      ending: 'endings',
      bonus: 'bonuses',
      sendBack: 'sendBacks',
      draught: 'draughts',
      jump: 'jumps',
      token: 'tokens',
      gate: 'gates',
    }
    let grid = emptyGrid(4, 3)
    set({ weight: 2, rewards: { ending: 7, bonus: 3, sendBack: -9, token: 1 }, once: false, chance: 0.25 })
    set({ toward: 'south', strength: 3 })
    const expected = {
      start: { weight: 2 },
      ending: { reward: 7 },
      bonus: { reward: 3, once: false },
      sendBack: { reward: -9, to: 'A1' },
      draught: { toward: 'south', strength: 3, chance: 0.25 },
      jump: { to: 'A1' },
      token: { reward: 1 },
      gate: {},
    }
    Object.entries(tools).forEach(([tool, list], i) => {
      pick(tool as Tool)
      if (tool === 'gate') set({ gateToken: grid.tokens[0].name })
      const [column, row] = [i % 4, 1 + Math.floor(i / 4)]
      grid = paintCell(grid, column, row, useBrush.getState().brush('A1')!)
      expect(grid[list]).toEqual([expect.objectContaining(expected[tool as keyof typeof expected])])
    })
    expect(() => checkGrid(grid)).not.toThrow()
    pick('wall')
    grid = paintCell(grid, 0, 0, useBrush.getState().brush(null)!)
    expect(grid.floor[0]).toBe('#...')
    pick('ground', ':')
    grid = paintCell(grid, 1, 0, useBrush.getState().brush(null)!)
    expect(grid.floor[0]).toBe('#:..')
    pick('erase')
    for (let i = 0; i < 12; i++)
      grid = paintCell(grid, i % 4, Math.floor(i / 4), useBrush.getState().brush(null)!)
    expect(grid).toEqual(emptyGrid(4, 3))
  })

  it('waits with a jump until it is known where to, and with a gate until there is its token', () => {
    pick('jump')
    expect(useBrush.getState().brush(null)).toBeUndefined()
    pick('gate')
    const grid = emptyGrid(2, 2)
    expect(paintCell(grid, 0, 0, useBrush.getState().brush(null)!)).toBe(grid)
  })

  it('ends marking when it is taken up, and keeps any other shape', () => {
    set({ shape: 'mark', region: { left: 0, top: 0, right: 1, bottom: 1 } as never })
    pick('bonus')
    expect(useBrush.getState()).toMatchObject({ tool: 'bonus', shape: 'freehand', region: null })
    set({ shape: 'line' })
    pick('wall')
    expect(useBrush.getState().shape).toBe('line')
  })

  it('has a key of its own, and says what it paints', () => {
    const all = [...Object.values(TOOLS), ...Object.values(SHAPES)]
    expect(new Set(all.map(({ key }) => key)).size).toBe(all.length)
    for (const { says } of all) expect(says).toMatch(/^[A-Z].*\.$/)
  })
})
