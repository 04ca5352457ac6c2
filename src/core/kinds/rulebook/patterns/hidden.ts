import type { Pattern } from './pattern'

export const hidden: Pattern = {
  title: 'A walk with a hidden part',
  what: 'the agent does not see all of the state',
  change: {
    says: 'Let the agent see everything: add “box” to the observe line.',
    from: 'observe room, heard',
    to: 'observe room, heard, box',
  },
  discount: 0.95,
  cap: 60,
  text: `# A guard walks a dark corridor. Behind one of the doors at its ends the alarm box hums.
state room from 1 to 5
state box in west, east
state heard in nothing, west_hum, east_hum
start room = 3, box ~ pick(west: 0.5, east: rest), heard = nothing

# Planning sees all, an agent that learns only this.
observe room, heard

action go_west when room > 1
action go_east when room < 5
action listen
action open when room = 1 or room = 5

# Of five times that one listens, four are right.
chance right ~ coin(0.8)
let hum = if (box = west) = right then west_hum else east_hum
let here = (room = 1 and box = west) or (room = 5 and box = east)

reward -1
reward 12 when action = open and here
reward -10 when action = open and not here

next room = room - 1 when action = go_west
next room = room + 1 when action = go_east
next heard = hum when action = listen
end after action = open and here "box found"
end after action = open and not here "alarm"
policy "always west": open when room = 1, go_west
`,
}
