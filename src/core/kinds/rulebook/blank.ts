import { newHead } from '../../environment/head'
import type { DocumentOf } from '../kind'
import type { RulebookDocument } from './document'

/** What a new rulebook begins with: small, whole, and with something of each kind. */
const TEXT = `# The museum sells lanterns at the door: order in the evening, sell the next day.
knob shelf = 6 from 2 to 20
knob cost = 4 from 1 to 9

state lanterns from 0 to shelf
start lanterns = 0

# Each evening: how many to order?
action order from 0 to shelf when lanterns + order <= shelf

chance visitors ~ poisson(3) up to 8
let stock = lanterns + order
let sold = min(stock, visitors)

reward 10 * sold - cost * order
next lanterns = stock - sold

policy "fill it up": order shelf - lanterns
`

export function newRulebook(name: string): DocumentOf<'rulebook', RulebookDocument> {
  return rulebookEnvironment(name || 'New rulebook', TEXT)
}

export function rulebookEnvironment(name: string, text: string): DocumentOf<'rulebook', RulebookDocument> {
  return {
    ...newHead(name, 'Imported rulebook'),
    kind: 'rulebook',
    rulebook: {
      text: text.replace(/^\uFEFF/, ''),
      knobs: {},
      view: { across: null, up: null, others: {} },
    },
  }
}
