import type { Pattern } from './pattern'

export const queue: Pattern = {
  title: 'A queue',
  what: 'admit or send on; time without a decision passes by itself',
  change: {
    says: 'Make the visitors patient: let waiting cost 0.1 instead of 0.6.',
    from: 'waiting = 0.6',
    to: 'waiting = 0.1',
  },
  discount: 0.95,
  cap: 200,
  text: `# Visitors come to the cloakroom: is the coat taken, or is the visitor sent on?
knob hooks = 6 from 2 to 12
knob waiting = 0.6 from 0 to 3 by 0.1
state coats from 0 to hooks
state visitor in none, quick, slow
start coats = 0, visitor = quick

action admit when coats < hooks
action send_on
pass when visitor = none discounted 0.95

table worth for none = 0, quick = 5, slow = 2
chance served ~ binomial(coats, 0.3)
chance comes ~ pick(none: 0.3, quick: 0.5, slow: rest)
reward worth[visitor] when action = admit
reward -waiting * coats

next coats = coats - served + (if action = admit then 1 else 0)
next visitor = comes

measure sent_on = action = send_on
policy "while there is room": admit, send_on
policy "quick ones only": admit when visitor = quick, send_on
`,
}
