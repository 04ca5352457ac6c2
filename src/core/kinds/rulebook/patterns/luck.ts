import type { Pattern } from './pattern'

export const luck: Pattern = {
  title: 'A game against chance',
  what: 'go on, or keep what you have',
  change: {
    says: 'Put a second owl into the bag: “0: 2”.',
    from: '0: 1,',
    to: '0: 2,',
  },
  discount: 1,
  cap: 40,
  text: `# The raffle of the museum night: tokens are drawn from a bag and put back.
# Their numbers add up, until one stops; the owl (0) takes all.
knob most = 30 from 10 to 60
state points from 0 to most
start points = 0

action draw
action stop when points > 0

chance token ~ sample(0: 1, 1: 2, 3: 2, 5: 1)
reward points when action = stop

next points = min(most, points + token) when action = draw
end after action = stop "kept"
end after action = draw and token = 0 "owl"
policy "stop at ten": stop when points >= 10, draw
`,
}
