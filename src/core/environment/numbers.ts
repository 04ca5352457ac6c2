import type { PayOff } from '../kinds/bandit/pay-off'
import type { Grid } from '../kinds/grid/document'
import { listNames, refuse } from '../problem'
import type { BanditEnvironment, EnvironmentDocument, GridEnvironment, TableEnvironment } from './document'
import type { NamedNumber } from './knobs'

/** A number of a document that a knob can turn. */
export interface DocumentNumber {
  /** Names it inside the document, whatever else changes: `endings[J4].reward`. */
  readonly key: string
  readonly title: string
  readonly value: number
  /** What the document allows. */
  readonly low: number
  readonly high: number
  put(value: number): EnvironmentDocument
}

/** Rows of a table whose rewards can be given a knob: choosing one among more is no use. */
const TABLE_ROWS = 400

/** Every number of a document that a knob can be given; none in a rulebook, which has knobs of its own. */
export function numbersOf(document: EnvironmentDocument): DocumentNumber[] {
  switch (document.kind) {
    case 'grid':
      return gridNumbers(document)
    case 'bandit':
      return banditNumbers(document)
    case 'table':
      return tableNumbers(document)
    case 'rulebook':
      return []
  }
}

/** A knob with the number it turns, or null where what it turned is gone. */
export interface SetKnob extends NamedNumber {
  readonly number: DocumentNumber | null
}

export function knobsOf(document: EnvironmentDocument): SetKnob[] {
  if (document.knobs.length === 0) return []
  const numbers = new Map(numbersOf(document).map((number) => [number.key, number]))
  return document.knobs.map((knob) => ({ ...knob, number: numbers.get(knob.sets) ?? null }))
}

/**
 * The document with a knob turned.
 * @throws ProblemError for a knob that is not there, and a value out of its range
 */
export function turnKnob(document: EnvironmentDocument, name: string, value: number): EnvironmentDocument {
  const knobs = knobsOf(document)
  const knob = knobs.find((each) => each.name === name)
  if (!knob)
    return refuse(
      `knob ${name}`,
      `There is no knob "${name}".`,
      `The knobs are ${
        listNames(
          knobs.map((each) => each.name),
          20,
        ) || 'none'
      }.`,
    )
  if (!knob.number)
    return refuse(
      `knob ${name}`,
      `What it turned, ${knob.sets}, is no longer there.`,
      'Remove the knob, or let it turn another number.',
    )
  if (!(value >= knob.low && value <= knob.high))
    refuse(
      `knob ${name}`,
      `The knob is set to ${value}; its range is ${knob.low} to ${knob.high}.`,
      'Stay within.',
    )
  return knob.number.put(value)
}

const REWARD = { low: -1e9, high: 1e9 }
const CHANCE = { low: 0, high: 1 }

function gridNumbers(document: GridEnvironment): DocumentNumber[] {
  const { grid } = document
  const change = (part: Partial<Grid>): EnvironmentDocument => ({ ...document, grid: { ...grid, ...part } })
  const field = (key: 'veer' | 'stall' | 'reverse' | 'stepReward', title: string, range = CHANCE) => ({
    key,
    title,
    value: grid[key],
    ...range,
    put: (value: number) => change({ [key]: value }),
  })
  const rewards = (list: 'endings' | 'bonuses' | 'sendBacks' | 'tokens', what: string) =>
    grid[list].map(({ at, name, reward }, i) => ({
      key: `${list}[${at}].reward`,
      title: `Reward of the ${what} ${name ? `“${name}” ` : ''}at ${at}`,
      value: reward,
      ...REWARD,
      put: (value: number) =>
        change({ [list]: grid[list].map((thing, k) => (k === i ? { ...thing, reward: value } : thing)) }),
    }))
  return [
    field('veer', 'Veer chance'),
    field('stall', 'Stall chance'),
    field('reverse', 'Reverse chance'),
    field('stepReward', 'Reward of every step', REWARD),
    ...grid.grounds.map(({ symbol, name, cost }, i) => ({
      key: `grounds[${symbol}].cost`,
      title: `Cost of ${name}`,
      value: cost,
      ...REWARD,
      put: (value: number) =>
        change({ grounds: grid.grounds.map((ground, k) => (k === i ? { ...ground, cost: value } : ground)) }),
    })),
    ...(grid.draughts.length
      ? [
          {
            key: 'draughts.chance',
            title: 'Chance of every draught',
            value: grid.draughts[0].chance,
            ...CHANCE,
            put: (chance: number) =>
              change({ draughts: grid.draughts.map((draught) => ({ ...draught, chance })) }),
          },
        ]
      : []),
    ...rewards('endings', 'ending'),
    ...rewards('bonuses', 'bonus'),
    ...rewards('sendBacks', 'send-back'),
    ...rewards('tokens', 'token'),
  ]
}

/** The numbers of each pay-off that a knob can turn. */
const PAY_FIELDS: { readonly [T in PayOff['type']]: readonly string[] } = {
  bernoulli: ['chance', 'reward'],
  gaussian: ['mean', 'deviation'],
  uniform: [],
  categorical: [],
}

function banditNumbers(document: BanditEnvironment): DocumentNumber[] {
  const { bandit } = document
  const { drift } = bandit
  const change = (part: Partial<typeof bandit>): EnvironmentDocument => ({
    ...document,
    bandit: { ...bandit, ...part },
  })
  const arms = bandit.arms.flatMap(({ name, pays }, a) =>
    pays.flatMap((payOff, c) =>
      PAY_FIELDS[payOff.type].map((field) => {
        const where = pays.length > 1 ? ` for ${bandit.contexts[c]?.name ?? c + 1}` : ''
        return {
          key: `arms[${name}]${pays.length > 1 ? `.pays[${c}]` : ''}.${field}`,
          title: `${name}${where}: ${field}`,
          value: payOff[field as keyof PayOff] as unknown as number,
          ...(field === 'chance' ? CHANCE : field === 'deviation' ? { low: 0, high: 1e9 } : REWARD),
          put: (value: number) =>
            change({
              arms: bandit.arms.map((arm, k) =>
                k === a
                  ? {
                      ...arm,
                      pays: arm.pays.map((other, i) => (i === c ? { ...other, [field]: value } : other)),
                    }
                  : arm,
              ),
            }),
        }
      }),
    ),
  )
  if (drift.type !== 'walk') return arms
  const step: DocumentNumber = {
    key: 'drift.step',
    title: 'Step of the random walk',
    value: drift.step,
    low: 1e-9,
    high: 1e9,
    put: (value) => change({ drift: { ...drift, step: value } }),
  }
  return [...arms, step]
}

function tableNumbers(document: TableEnvironment): DocumentNumber[] {
  const { table } = document
  return table.transitions
    .slice(0, TABLE_ROWS)
    .map(([state, action, next, probability, reward, ...rest], i) => ({
      key: `transitions[${state}, ${action}, ${next}].reward`,
      title: `Reward of ${state}, ${action}, to ${next}`,
      value: reward,
      ...REWARD,
      put: (value: number): EnvironmentDocument => ({
        ...document,
        table: {
          ...table,
          transitions: table.transitions.map((row, k) =>
            k === i ? ([state, action, next, probability, value, ...rest] as const) : row,
          ),
        },
      }),
    }))
}
