import type { Pattern } from './pattern'

export const evenings: Pattern = {
  title: 'Tickets over evenings',
  what: 'a price each evening, and a last evening',
  change: {
    says: 'Offer a price in between: add 15 to the prices.',
    from: 'in 8, 12, 18',
    to: 'in 8, 12, 15, 18',
  },
  discount: 1,
  cap: 20,
  text: `# Seats for the concert in the hall of globes are sold over some evenings.
knob seats = 12 from 4 to 40
knob evenings = 5 from 2 to 10
state left from 0 to seats
state evening from 1 to evenings + 1
start left = seats, evening = 1

# What does a seat cost tonight?
action price in 8, 12, 18

# The dearer, the fewer ask.
chance callers ~ poisson(9 - 0.4 * price) up to 14
let sold = min(callers, left)
reward sold * price

next left = left - sold
next evening = evening + 1
end when evening > evenings
end when left = 0

measure turned_away = callers - sold
policy "dear, then cheap": price 18 when evening <= evenings / 2, price 8
`,
}
