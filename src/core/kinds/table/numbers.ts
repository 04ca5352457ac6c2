import { REWARD_RANGE, type DocumentNumber } from '../../environment/head-knobs'
import type { DocumentOf } from '../kind'
import type { TableDocument } from './document'

/** Rows of a table whose rewards can be given a knob: choosing one among more is no use. */
const TABLE_ROWS = 400

/** Every number of a table that a knob can be given. */
export function tableNumbers(
  document: DocumentOf<'table', TableDocument>,
): DocumentNumber<DocumentOf<'table', TableDocument>>[] {
  const { table } = document
  return table.transitions
    .slice(0, TABLE_ROWS)
    .map(([state, action, next, probability, reward, ...rest], i) => ({
      key: `transitions[${state}, ${action}, ${next}].reward`,
      title: `Reward of ${state}, ${action}, to ${next}`,
      value: reward,
      ...REWARD_RANGE,
      put: (value: number) => ({
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
