import { describe, expect, it } from 'vitest'
import { compileEnvironment } from '../environment/compile'
import { tableEnvironment } from '../kinds/table/blank'
import { newBandit } from '../kinds/bandit/blank'
import { readGridText } from '../kinds/grid/read-grid-text'
import { gridDocument } from '../testing/models'
import { EXPORT_IDS, exportForm } from './exports'
import { writePlainText } from './plain-text'

const grid = gridDocument(['..:', '.#.'], { endings: [{ at: 'C2', reward: 4, name: '' }] })
const table = tableEnvironment('tea "round"', [
  ['hall', 'go', 'tea room', 0.25, 2],
  ['hall', 'go', 'hall', 0.75, -1],
  ['hall', 'stop', 'tea room', 1, 0],
])

describe('writePlainText', () => {
  it('lays numbers and moves out as the grid lies', () => {
    const compiled = compileEnvironment(grid)
    const values = Float64Array.of(1.5, -2, 30, 0.25, 0)
    const policy = new Float64Array(compiled.model.rows)
    compiled.model.rowStart.slice(0, 4).forEach((row) => (policy[row + 1] = 1))
    const text = writePlainText(grid, compiled, { values, policy })
    expect(text.split('\n\n').slice(2).join('\n\n')).toBe(
      [
        'Values',
        '       A    B    C',
        '  1  1.5   -2   30',
        '  2 0.25       end',
        '',
        'Policy',
        '      A   B   C',
        '  1   E   E   E',
        '  2   E     end',
        '',
      ].join('\n'),
    )
    expect(readGridText(text.slice(0, text.indexOf('\n\nValues')), grid.grid).floor).toEqual(grid.grid.floor)
  })

  it('lists states, values and what is picked', () => {
    const compiled = compileEnvironment(table)
    const numbers = { values: Float64Array.of(1.25, 0), policy: Float64Array.of(0.5, 0.5) }
    expect(writePlainText(table, compiled, numbers)).toBe(
      ['state     value   policy', 'hall      1.25    go|stop', 'tea room  ending', ''].join('\n'),
    )
  })

  it('writes minus signs that can be typed, and a dash where there is no value', () => {
    const compiled = compileEnvironment(table)
    const values = (hall: number) =>
      writePlainText(table, compiled, { values: Float64Array.of(hall, 0) })
        .split('\n')[1]
        .split(/ {2,}/)[1]
    expect(values(-1.5)).toBe('-1.5')
    expect(values(-2e-7)).toBe('-2e-7')
    expect(values(-3.25e9)).toBe('-3.3e9')
    expect(values(NaN)).toBe('–')
  })

  it('does not tell what a class is not to see', () => {
    const bandit = newBandit('b')
    expect(writePlainText(bandit, null)).toContain('1 with chance 0.4')
    expect(writePlainText({ ...bandit, bandit: { ...bandit.bandit, hidden: true } }, null)).not.toContain(
      '0.4',
    )
  })
})

describe('exports', () => {
  it('write a graph whose names cannot break out of their quotes', () => {
    const dot = exportForm(table, 'dot').write(table, compileEnvironment(table))
    expect(dot).toContain('digraph "tea \\"round\\"" {')
    expect(dot).toContain('s0 -> r0 [label="go", arrowhead=none];')
    expect(dot).toContain('r0 -> s1 [label="0.25, reward 2"];')
    expect(dot).toContain('s0 -> s1 [label="stop, reward 0"];')
    expect(dot.match(/shape=box/g)).toHaveLength(1)
  })

  it('are each for some kind, and refuse the others by name', () => {
    const compiled = compileEnvironment(table)
    for (const id of EXPORT_IDS)
      if (['json', 'csv', 'dot', 'text', 'notebook'].includes(id))
        expect(exportForm(table, id).write(table, compiled).length).toBeGreaterThan(10)
      else
        expect(() => exportForm(table, id)).toThrow(
          `--to: This is a table, which cannot be written as ${id}. Choose another of json, csv, dot, text, notebook.`,
        )
    expect(EXPORT_IDS).toEqual(expect.arrayContaining(['map', 'cells', 'rules']))
  })

  it('write a simpler graph of a model that layered layout could not draw, and name the program that does', () => {
    const floor = Array.from({ length: 8 }, () => '........')
    const large = gridDocument(floor, { veer: 0.2, endings: [{ at: 'H8', reward: 4, name: '' }] })
    const { model } = compileEnvironment(large)
    expect(model.outcomes).toBeGreaterThan(300)
    const dot = exportForm(large, 'dot').write(large, compileEnvironment(large))
    expect(dot).toMatch(/^\/\/ \d+ outcomes: chance nodes are left out\. Drawn by: sfdp -Tsvg/)
    expect(dot).toContain('layout=sfdp;')
    expect(dot).not.toContain('diamond')
    // From a corner one comes to two cells, by two or three of the four moves each.
    expect(dot.match(/^ {2}s0 -> /gm)).toHaveLength(2)
  })

  it('refuse a graph nobody could draw', () => {
    const many = Array.from({ length: 20_001 }, (_, i) => [`s${i}`, 'go', `s${i + 1}`, 1, 0] as const)
    const large = tableEnvironment('large', many)
    expect(() => exportForm(large, 'dot').write(large, compileEnvironment(large))).toThrow(
      /The model has 20001 outcomes; a graph is written up to 20000/,
    )
  })
})
