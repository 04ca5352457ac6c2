import type { Pattern } from './pattern'

export const twists: Pattern = {
  title: 'A puzzle with k twists',
  what: 'started from its solution by random actions: a knob makes it harder',
  change: {
    says: 'Turn the knob “twists” from 4 to 7.',
    from: 'twists = 4',
    to: 'twists = 7',
  },
  discount: 1,
  cap: 60,
  text: `# A vault with three dials: turning one takes the one after it along.
knob twists = 4 from 1 to 8
state dial list of 3 from 0 to 3
start dial = 0 then twists random actions

action turn with which from 1 to 3, way in up, down

let step = if way = up then 1 else -1
next dial = [if i = which or i = which mod 3 + 1 then (dial[i] + step) mod 4 else dial[i]
  for i from 1 to 3]

reward -1
end when all([d = 0 for d in dial])
policy "the first dial": turn with which = 1, way = up
`,
}
