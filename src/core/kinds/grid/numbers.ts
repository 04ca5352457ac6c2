import { CHANCE_RANGE, REWARD_RANGE, type DocumentNumber } from '../../environment/head-knobs'
import type { DocumentOf } from '../kind'
import type { Grid } from './document'

/** Every number of a grid that a knob can be given. */
export function gridNumbers(document: DocumentOf<'grid', Grid>): DocumentNumber<DocumentOf<'grid', Grid>>[] {
  const { grid } = document
  const change = (part: Partial<Grid>) => ({ ...document, grid: { ...grid, ...part } })
  const field = (key: 'veer' | 'stall' | 'reverse' | 'stepReward', title: string, range = CHANCE_RANGE) => ({
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
      ...REWARD_RANGE,
      put: (value: number) =>
        change({ [list]: grid[list].map((thing, k) => (k === i ? { ...thing, reward: value } : thing)) }),
    }))
  return [
    field('veer', 'Veer chance'),
    field('stall', 'Stall chance'),
    field('reverse', 'Reverse chance'),
    field('stepReward', 'Reward of every step', REWARD_RANGE),
    ...grid.grounds.map(({ symbol, name, cost }, i) => ({
      key: `grounds[${symbol}].cost`,
      title: `Cost of ${name}`,
      value: cost,
      ...REWARD_RANGE,
      put: (value: number) =>
        change({ grounds: grid.grounds.map((ground, k) => (k === i ? { ...ground, cost: value } : ground)) }),
    })),
    ...(grid.draughts.length
      ? [
          {
            key: 'draughts.chance',
            title: 'Chance of every draught',
            value: grid.draughts[0].chance,
            ...CHANCE_RANGE,
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
