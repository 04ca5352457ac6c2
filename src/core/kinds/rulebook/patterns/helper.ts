import type { Pattern } from './pattern'

export const helper: Pattern = {
  title: 'Two lines, one helper',
  what: 'where to help next, when the way there costs time',
  change: {
    says: 'Make the first line busier: a rate of 0.8 instead of 0.5.',
    from: 'rate = 0.5',
    to: 'rate = 0.8',
  },
  discount: 0.95,
  cap: 200,
  text: `# Two counters, one helper: who changes the counter serves nobody on the way.
table rate = 0.5, 0.3
state line list of 2 from 0 to 4
state helper from 1 to 2
start line = 0, helper = 1

action help with counter from 1 to 2

chance comes list of 2 ~ coin(rate[item])
let served = if counter = helper then min(1, line[counter]) else 0
let rest_of_line = put(line, counter, line[counter] - served)
reward 3 * served - sum(line)

next line = [min(4, rest_of_line[i] + (if comes[i] then 1 else 0)) for i from 1 to 2]
next helper = counter

measure turned_away = count([comes[i] and rest_of_line[i] = 4 for i from 1 to 2])
policy "the longer line": help with counter = 1 when line[1] >= line[2], help with counter = 2
policy "stay at the first": help with counter = 1
`,
}
