import type { Pattern } from './pattern'

export const onTheWay: Pattern = {
  title: 'Goods on their way',
  what: 'what is ordered today arrives later',
  change: {
    says: 'Let the oil take three evenings: make “coming” a list of 3.',
    from: 'list of 2',
    to: 'list of 3',
  },
  discount: 0.95,
  cap: 100,
  text: `# Oil for the lamps of the night round takes two evenings to arrive.
knob cellar = 5 from 2 to 9
state oil from 0 to cellar
state coming list of 2 from 0 to 3
start oil = 3, coming = 0

action order from 0 to 3 when oil + sum(coming) + order <= cellar

chance burnt ~ binomial(3, 0.5)
let short = max(0, burnt - oil)
reward -8 * short - 2 * order - 0.2 * oil

next oil = max(0, oil - burnt) + coming[1]
next coming = shift(coming, order)

measure dark_lamps = short
check "the cellar never overflows": next oil + sum(next coming) <= cellar
policy "keep four": order 4 - oil - sum(coming)
`,
}
