import { tableOutline } from './outline'
import { headKnobs } from '../../environment/head-knobs'
import type { Split, Leaf, Tree } from '../../environment/tree'
import type { CompiledBase, DocumentOf, EnvironmentKind } from '../kind'
import { refuseGaps, type TableDocument } from './document'
import { tableNumbers } from './numbers'

export type TableEnvironment = DocumentOf<'table', TableDocument>

export interface CompiledTable extends CompiledBase {
  readonly kind: 'table'
}

export const tableKind = {
  ...tableOutline,
  headKnobs: true,
  check: ({ table }) => refuseGaps(table),
  checkShape: () => {},
  sameModel: (one, other) =>
    (['transitions', 'starts', 'observations'] as const).every((key) => one.table[key] === other.table[key]),
  isCovered: () => false,
  numbers: tableNumbers,
  knobs: (document) => headKnobs(document, () => tableNumbers(document)),
  fields: {
    transitions: { word: 'Transition', compare: transitionSplit() },
    starts: { word: 'Start', compare: { by: 'state' } },
    observations: { word: 'What it looks like' },
    places: { word: 'Place on the board' },
  },
  exports: {},
  listLosses: () => [],
  text: () => '',
  scoresPolicies: false,
} as const satisfies EnvironmentKind<'table', TableDocument, CompiledTable>

/** Transitions by state, action and next state; repeated ones are counted on. */
function transitionSplit(): Split {
  return {
    items: true,
    split(tree, field) {
      const items: Tree = new Map()
      for (const transition of field as TableDocument['transitions']) {
        const [state, action, next, probability, reward, discount] = transition
        let key = `${state}, ${action}, ${next}`
        for (let i = 2; items.has(key); i++) key = `${state}, ${action}, ${next} (${i})`
        items.set(
          key,
          new Map<string, Leaf>([
            ['names', [state, action, next]],
            ['probability', probability],
            ['reward', reward],
            ...(discount === undefined ? [] : [['discount', discount] as const]),
          ]),
        )
      }
      tree.set('transitions', items)
    },
    join: (tree) =>
      [...(tree.get('transitions') as Tree).values()].map((item) => {
        const fields = item as Tree
        return [
          ...(fields.get('names') as readonly unknown[]),
          fields.get('probability'),
          fields.get('reward'),
          ...(fields.has('discount') ? [fields.get('discount')] : []),
        ]
      }),
  }
}
