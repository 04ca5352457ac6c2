import { endingOf } from '../environment/ending'
import fc from 'fast-check'
import { readFileSync, readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { newBandit } from '../kinds/bandit/blank'
import { compileEnvironment } from '../environment/compile'
import { readEnvironment } from '../environment/read'
import { rulebookEnvironment } from '../kinds/rulebook/blank'
import { tableEnvironment } from '../kinds/table/blank'
import type { EnvironmentDocument } from '../kinds/kinds'
import { turnKnob } from '../environment/knobs'
import { checkEnvironment, parseEnvironment } from '../environment/document'
import { cellName } from '../kinds/grid/cells'
import { THING_LISTS, type Grid } from '../kinds/grid/document'
import { modelFingerprint } from '../model/fingerprint'
import { ProblemError } from '../problem'
import { solveOptimum } from '../plan/solve'
import { gridDocument } from '../testing/models'
import { modelByNames } from '../testing/same-model'
import { plainName, writeCsv } from './csv'
import { exportForm, exportsOf } from './exports'

const DEMOS = readdirSync('demo')
  .filter((name) => name.endsWith('.json'))
  .map((name) => parseEnvironment(readFileSync(`demo/${name}`, 'utf8')))
/** Forms that are not read again. */
const WRITTEN_ONLY = ['dot', 'text', 'notebook']
const RUNS = process.env.LONG === '1' ? 2000 : 120

/** Every form of a document that can be read again gives the same model, or says what it cannot say. */
function comesBack(document: EnvironmentDocument): void {
  const compiled = compileEnvironment(document)
  for (const { id, ending, write, losses } of exportsOf(document)) {
    if (WRITTEN_ONLY.includes(id)) continue
    const lost = losses?.(document, compiled) ?? []
    // What a grid of cells leaves out is named; then it need not come back.
    if (id === 'cells' && lost.some((loss) => loss.includes('Rules of moving'))) continue
    if (lost.some((loss) => loss.includes('order of their cells'))) continue
    const again = readEnvironment(write(document, compiled), document.name, endingOf(ending))
    const { model } = compileEnvironment(again)
    const merged = lost.some((loss) => loss.includes('as their mean'))
    // Compared as text: the differences of large models would be looked for for minutes.
    const told = (each: typeof model) => JSON.stringify(sorted(modelByNames(each, merged)))
    expect({ id, same: told(model) === told(compiled.model) }).toEqual({ id, same: true })
    const numbered = lost.some((loss) => loss.includes('numbered anew'))
    if (!numbered && !merged) {
      // Names aside, an ending may look like another one.
      const bare = (each: typeof model) => modelFingerprint({ ...each, observation: new Int32Array(0) })
      expect([id, bare(model)]).toEqual([id, bare(compiled.model)])
    }
    if (!lost.some((loss) => loss.includes('discount'))) expect(again.discount).toBe(document.discount)
    if (!lost.some((loss) => loss.includes('step limit'))) expect(again.cap).toBe(document.cap)
  }
}

/** With the fields of every object in the order of their names. */
function sorted(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value
  return Object.fromEntries(
    Object.entries(value)
      .sort(([x], [y]) => (x < y ? -1 : 1))
      .map(([key, field]) => [key, sorted(field)]),
  )
}

describe('what is exported comes back', () => {
  it.each(DEMOS.map((document) => [document.name, document] as const))('%s', (_, document) => {
    comesBack(document)
  })

  it('with the knobs that were turned', () => {
    const tickets = DEMOS.find(({ name }) => name === 'Evening tickets')!
    if (tickets.kind !== 'rulebook') throw new Error('no rulebook')
    const turned = { ...tickets, rulebook: { ...tickets.rulebook, knobs: { places: 20 } } }
    const text = exportForm(turned, 'rules').write(turned, compileEnvironment(turned))
    expect(text).toMatch(/^knob places = 20 /m)
    comesBack(turned)
    for (const document of DEMOS)
      for (const { name, high } of document.knobs) comesBack(turnKnob(document, name, high))
  })

  it('the start of Night rounds, and what its steps cost', () => {
    const rounds = DEMOS.find(({ name }) => name === 'Night rounds')!
    const compiled = compileEnvironment(rounds)
    for (const id of ['csv', 'map'] as const) {
      const { write, ending } = exportForm(rounds, id)
      const again = readEnvironment(write(rounds, compiled), 'again', endingOf(ending))
      expect(solveOptimum(compileEnvironment(again).model, rounds.discount)!.start).toBe(
        solveOptimum(compiled.model, rounds.discount)!.start,
      )
    }
  })

  const side = fc.integer({ min: 2, max: 5 })
  // Numbers with all their bits, but not so small that they vanish when they are multiplied.
  const number = (min: number, max: number) =>
    fc.oneof(
      fc.constant(0),
      fc.double({ min, max, noNaN: true }).filter((x) => Math.abs(x) > 1e-9),
    )
  const reward = number(-20, 20)
  const chance = number(0, 0.3)
  const grids = fc
    .record({
      columns: side,
      rows: side,
      walls: fc.array(fc.nat(), { maxLength: 4 }),
      carpet: fc.array(fc.nat(), { maxLength: 4 }),
      things: fc.array(
        fc.record({
          list: fc.constantFrom(...THING_LISTS),
          at: fc.nat(),
          to: fc.nat(),
          reward,
          weight: chance,
        }),
        { maxLength: 6 },
      ),
      grid: fc.record({
        moves: fc.constantFrom(4 as const, 8 as const),
        stay: fc.boolean(),
        diagonalCosts: fc.boolean(),
        stepReward: reward,
        veer: chance,
        stall: chance,
        reverse: chance,
      }),
      cost: reward,
      discount: number(0, 1),
      cap: fc.nat({ max: 500 }),
    })
    .map(({ columns, rows, walls, carpet, things, grid, cost, discount, cap }): EnvironmentDocument => {
      const cells = columns * rows
      const symbols = Array<string>(cells).fill('.')
      for (const at of carpet) symbols[at % cells] = ':'
      for (const at of walls) symbols[at % cells] = '#'
      const place = (at: number) => cellName(at % columns, Math.floor(at / columns) % rows)
      const lists: Record<string, object[]> = Object.fromEntries(THING_LISTS.map((list) => [list, []]))
      const names = ['', 'key, old', 'the "exit"', '=1+1', '-3', "it's; here"]
      for (const { list, at, to, reward: paid, weight } of things) {
        const thing = {
          starts: { weight: weight + 0.01 },
          endings: { reward: paid, name: names[to % names.length] },
          bonuses: { reward: paid, once: to % 2 === 0, name: names[at % names.length] },
          sendBacks: { reward: paid, to: to % 3 ? place(to) : null, name: '' },
          jumps: { to: place(to) },
          tokens: { name: `t${to % 3}`, reward: paid },
          gates: { token: `t${to % 3}` },
          draughts: { toward: to % 2 ? 'east' : 'south', strength: 1 + (to % 3), chance: weight },
        }[list]
        if (!lists[list].some((each) => (each as { at: string }).at === place(at)))
          lists[list].push({ at: place(at), ...thing })
      }
      return {
        ...gridDocument(
          Array.from({ length: rows }, (_, r) => symbols.slice(r * columns, (r + 1) * columns).join('')),
          {
            ...grid,
            ...(lists as Partial<Grid>),
            grounds: [
              { symbol: '.', name: 'parquet', cost: 0, veer: null },
              { symbol: ':', name: 'red carpet', cost, veer: 0.125 },
            ],
          },
        ),
        discount,
        cap,
      }
    })

  const name = fc.constantFrom('a', 'b', 'hall 2', '10', '9', '=SUM(A1)', '-1', '@home', "'=x", 'ä, "b"', '+')
  const tables = fc
    .array(
      fc.record({
        state: name,
        action: name,
        outcomes: fc.array(
          fc.record({
            next: name,
            weight: fc.integer({ min: 1, max: 7 }),
            reward,
            discount: fc.constantFrom(1, 1, 1, 0.5, 0.1),
          }),
          { minLength: 1, maxLength: 4 },
        ),
      }),
      { minLength: 1, maxLength: 8 },
    )
    .map((rows): EnvironmentDocument => {
      const seen = new Set<string>()
      return tableEnvironment(
        'table',
        rows.flatMap(({ state, action, outcomes }) => {
          const key = JSON.stringify([state, action])
          if (seen.has(key)) return []
          seen.add(key)
          const total = outcomes.reduce((sum, { weight }) => sum + weight, 0)
          return outcomes.map(
            ({ next, weight, reward: paid, discount }) =>
              [state, action, next, weight / total, paid, discount] as const,
          )
        }),
      )
    })

  const bandits = fc
    .record({
      pays: fc.array(
        fc.oneof(
          fc.record({
            type: fc.constant('gaussian' as const),
            mean: reward,
            deviation: chance.map((x) => x + 0.1),
          }),
          fc.record({ type: fc.constant('bernoulli' as const), chance, reward }),
        ),
        { minLength: 1, maxLength: 3 },
      ),
      pulls: fc.integer({ min: 1, max: 3 }),
      contexts: fc.array(fc.integer({ min: 1, max: 9 }), { maxLength: 2 }),
    })
    .map(({ pays, pulls, contexts }): EnvironmentDocument => {
      const plain = newBandit('arms')
      return {
        ...plain,
        bandit: {
          ...plain.bandit,
          arms: pays.map((pay, i) => ({
            name: `=arm ${i}`,
            pays: contexts.length ? contexts.map(() => pay) : [pay],
          })),
          contexts: contexts.map((weight, i) => ({ name: `day ${i}`, weight })),
          pulls,
        },
      } as EnvironmentDocument
    })

  const EXAMPLES = [...readFileSync('docs/rulebook.md', 'utf8').matchAll(/```rules\n([^]*?)```/g)].map(
    ([, text]) => rulebookEnvironment('example', text),
  )

  it.each(EXAMPLES.map((each, i) => [i + 1, each] as const))('rulebook %i of the guide', (_, document) => {
    comesBack(document)
  })

  it.each([
    ['grids', grids],
    ['tables', tables],
    ['bandits', bandits],
  ] as const)(
    'random %s',
    (_, documents) => {
      let compared = 0
      fc.assert(
        fc.property(documents as fc.Arbitrary<EnvironmentDocument>, (document) => {
          try {
            compileEnvironment(checkEnvironment(document))
          } catch (error) {
            // Not every mixture is an environment.
            if (error instanceof ProblemError) return
            throw error
          }
          comesBack(document)
          compared++
        }),
        { numRuns: RUNS },
      )
      expect(compared).toBeGreaterThan(RUNS / 10)
    },
    120_000,
  )
})

describe('names in a CSV', () => {
  it('are never run by a spreadsheet, and come back as they were', () => {
    for (const each of ['=1+1', '+x', '-x', '@x', "'=x", "''-", 'plain', "'tis", '"=x"', '']) {
      const [, line] = writeCsv(['name'], [[each]]).split('\r\n')
      expect(line.replace(/^"/, '')).not.toMatch(/^[=+\-@]/)
      const field = line.startsWith('"') ? line.slice(1, -1).replaceAll('""', '"') : line
      expect(plainName(field)).toBe(each)
    }
    // Numbers are numbers.
    expect(writeCsv(['value'], [[-3]])).toBe('value\r\n-3\r\n')
  })
})
