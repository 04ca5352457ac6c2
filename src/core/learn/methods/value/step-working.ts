import { num, say, type Part, type Working, type WorkingLine } from '../../../explain/working'
import { formatCount } from '../../../formats/number'
import type { LearnSettings } from '../../../settings/settings'
import { DOUBLE_SLOT, ONE_STEP_SLOT, SLOT } from '../../slots'
import type { World } from '../../world'

/** What the target of a one-step update looks ahead to. */
export type Target = 'best' | 'taken' | 'expected'

/** The rule that moves a number towards a target, in parts and in LaTeX. */
export function towards(what: string, latexWhat: string, target: readonly Part[], latexTarget: string) {
  return {
    formula: [
      say(`${what} ←`),
      say(what, 'old'),
      say('+'),
      say('learning rate', 'rate'),
      say('× ('),
      ...target,
      say('−'),
      say(what, 'old'),
      say(')'),
    ],
    latex: String.raw`${latexWhat} \leftarrow \was{${latexWhat}} + \rate{\alpha}\,\bigl(${latexTarget} - \was{${latexWhat}}\bigr)`,
  }
}

/** reward + discount × ahead, in general. */
export function oneStepTarget(ahead: string, latexAhead: string) {
  return [
    [say('reward', 'reward'), say('+'), say('discount', 'rate'), say('×'), say(ahead, 'next')] as Part[],
    String.raw`\paid{r} + \rate{\gamma}\,\ahead{${latexAhead}}`,
  ] as const
}

export const Q = 'Q(s, a)'

const AHEAD: Record<Target, { words: string; latex: string }> = {
  best: { words: 'max Q(next, ·)', latex: String.raw`\max_{b} Q(s', b)` },
  taken: { words: 'Q(next, next action)', latex: String.raw`Q(s', a')` },
  expected: {
    words: 'Σ policy × Q(next, ·)',
    latex: String.raw`\textstyle\sum_{b} \pi(b \mid s')\,Q(s', b)`,
  },
}

/** With their numbers: target, error and new value. */
export function updateLines(
  [reward, discount, ahead, next]: readonly [number, number, number, number],
  [old, rate, result]: readonly [number, number, number],
): WorkingLine[] {
  const target = reward + discount * ahead
  return [
    {
      label: 'target',
      parts: [
        num('reward', reward),
        say('+'),
        num('rate', discount),
        say('×'),
        num('next', ahead, next),
        say('='),
        num('plain', target),
      ],
    },
    {
      label: 'error',
      parts: [num('plain', target), say('−'), num('old', old), say('='), num('plain', target - old)],
    },
    newValueLine(old, rate, target - old, result),
  ]
}

export function newValueLine(old: number, rate: number, error: number, result: number): WorkingLine {
  return {
    label: 'new value',
    parts: [
      num('old', old),
      say('+'),
      num('rate', rate),
      say('×'),
      num('plain', error),
      say('='),
      num('result', result),
    ],
    strong: true,
  }
}

/** Whose number it is and when it was updated. */
export function updateTitle(world: World, state: number, row: number, step: number): string {
  const { labels, actions } = world.model
  const action = row < 0 ? '' : `, ${actions[world.tableAction[row]]}`
  return `${labels[state]}${action}, step ${formatCount(step + 1)}`
}

/** One-step control: target, error, new value, and what the others would have looked ahead to. */
export function controlWorking(
  world: World,
  { discount }: LearnSettings,
  slot: Float64Array,
  target: Target,
): Working | undefined {
  const row = slot[SLOT.row]
  if (row < 0) return undefined
  const { labels, actions } = world.model
  const [old, reward, next, ahead, result, step, rate] = sharedFields(slot)
  const nextRow = slot[ONE_STEP_SLOT.nextRow]
  const other = slot[ONE_STEP_SLOT.other]
  const ended = world.ending[next] === 1
  const { words, latex } = AHEAD[target]
  const lines = updateLines([reward, discount, ahead, next], [old, rate, result])
  if (!ended && target !== 'best') lines.push(insteadLine(MAXIMUM, reward, discount, other, next))
  else if (!ended && nextRow >= 0)
    lines.push(
      insteadLine(
        `SARSA’s target instead, with ${actions[world.tableAction[nextRow]]}, the action taken next`,
        reward,
        discount,
        other,
        next,
      ),
    )
  return {
    title: updateTitle(world, stateOfRow(world, row), row, step),
    ...towards(Q, Q, ...oneStepTarget(words, latex)),
    lines,
    note: ended
      ? `Nothing comes after ${labels[next]}, an ending: the look ahead is 0.`
      : target === 'taken'
        ? `The look ahead is the value of ${actions[world.tableAction[nextRow]]} in ${labels[next]}, the action taken next${ahead === other ? ', which is a best one' : ''}.`
        : target === 'best'
          ? `The look ahead is the largest action value of ${labels[next]}, whatever is done there next${nextRow < 0 ? '; the action that will be is not chosen yet, and SARSA would have to wait for it' : ''}.`
          : `The look ahead is the mean of the action values of ${labels[next]}, weighted by how likely each is to be taken.`,
  }
}

const MAXIMUM = 'Q-learning’s target instead, with the largest action value'

/** What the target of another method would have been. */
function insteadLine(
  label: string,
  reward: number,
  discount: number,
  best: number,
  next: number,
): WorkingLine {
  return {
    label,
    parts: [
      num('reward', reward),
      say('+'),
      num('rate', discount),
      say('×'),
      num('next', best, next),
      say('='),
      num('plain', reward + discount * best),
    ],
  }
}

/** Double Q-learning: which table said what. */
export function doubleWorking(
  world: World,
  { discount }: LearnSettings,
  slot: Float64Array,
): Working | undefined {
  const row = slot[SLOT.row]
  if (row < 0) return undefined
  const { labels, actions } = world.model
  const [old, reward, next, ahead, result, step, rate] = sharedFields(slot)
  const nextRow = slot[DOUBLE_SLOT.nextRow]
  const [written, other] = slot[DOUBLE_SLOT.second] === 1 ? ['B', 'A'] : ['A', 'B']
  const latexAhead = String.raw`Q_{${other}}\bigl(s', \arg\max_{b} Q_{${written}}(s', b)\bigr)`
  return {
    title: updateTitle(world, stateOfRow(world, row), row, step),
    ...towards(
      `Q${written}(s, a)`,
      `Q_{${written}}(s, a)`,
      ...oneStepTarget(`Q${other}(next, the best by Q${written})`, latexAhead),
    ),
    lines: updateLines([reward, discount, ahead, next], [old, rate, result]),
    note:
      nextRow < 0
        ? `The coin picked table ${written}. Nothing comes after ${labels[next]}, an ending: the look ahead is 0.`
        : `The coin picked table ${written}. It holds ${actions[world.tableAction[nextRow]]} for the best action of ${labels[next]}; table ${other} says what that is worth. The board shows the mean of both tables.`,
  }
}

/** old, reward, next, ahead, result, step, rate */
export function sharedFields(slot: Float64Array): number[] {
  return [SLOT.old, SLOT.reward, SLOT.next, SLOT.ahead, SLOT.result, SLOT.step, SLOT.rate].map(
    (field) => slot[field],
  )
}

/** A state whose observation has this row. */
export function stateOfRow(world: World, row: number): number {
  let observation = 0
  while (world.tableStart[observation + 1] <= row) observation++
  return world.someState(observation)
}
