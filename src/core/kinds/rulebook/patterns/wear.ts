import type { Pattern } from './pattern'

export const wear: Pattern = {
  title: 'Wear and care',
  what: 'run it, service it or replace it before it breaks',
  change: {
    says: 'Make service better: let it take back five steps of wear instead of three.',
    from: 'wear - 3',
    to: 'wear - 5',
  },
  discount: 0.95,
  cap: 200,
  text: `# The escalator to the gallery wears down month by month.
knob life = 8 from 4 to 16
state wear from 0 to life
start wear = 0

action run
action service when wear > 0
action replace

let age = if action = replace then 0 else if action = service then max(0, wear - 3) else wear
chance worn ~ pick(0: 0.3, 1: 0.5, 2: rest)
chance breaks ~ coin(0.6 * (age / life) ^ 2)

reward 6
reward -3 when action = service
reward -14 when action = replace
reward -20 when breaks

next wear = if breaks then 0 else min(life, age + worn)

measure breakdowns = breaks
policy "never": run
policy "service at half its life": service when wear >= life / 2, run
`,
}
