import { num, say, type Part, type Working } from '../../../explain/working'
import { formatCount } from '../../../formats/number'
import type { LearnSettings } from '../../../settings/settings'
import { newValueLine, Q, sharedFields, stateOfRow, towards, updateTitle } from '../value/step-working'
import { RETURN_SLOT, SHOWN, SLOT, SLOT_SIZE } from '../../slots'
import type { World } from '../../world'

/** A return counted backwards from its end, and the number moved towards it. */
export function returnWorking(
  world: World,
  slot: Float64Array,
  /** Rewards there is room for in the slot. */
  room: number,
  kind: 'n-step' | 'action value' | 'value',
): Working | undefined {
  const cell = slot[SLOT.row]
  if (cell < 0) return undefined
  const { labels } = world.model
  const [old, returned, next, ahead, result, step, rate] = sharedFields(slot)
  const length = slot[RETURN_SLOT.length]
  const shown = kind === 'n-step' ? length : Math.min(SHOWN, length)
  const rewards = slot.subarray(SLOT_SIZE + 1, SLOT_SIZE + 1 + shown)
  const discounts = slot.subarray(SLOT_SIZE + 1 + room, SLOT_SIZE + 1 + room + shown)
  const rest = kind === 'n-step' ? ahead : slot[RETURN_SLOT.rest]
  const values = kind === 'value'
  const what = values ? 'V(s)' : Q
  const ended = world.ending[next] === 1
  const latexReturn =
    kind === 'n-step'
      ? String.raw`\paid{r_1} + \rate{\gamma}\paid{r_2} + \dots + \rate{\gamma^{n}}\,\ahead{Q(s_n, a_n)}`
      : String.raw`\paid{G}`
  return {
    title: updateTitle(
      world,
      values ? world.someState(cell) : stateOfRow(world, cell),
      values ? -1 : cell,
      step,
    ),
    ...towards(
      what,
      what,
      kind === 'n-step'
        ? [say('n rewards, discounted,', 'reward'), say('+'), say('Q after them', 'next')]
        : [say('return', 'reward')],
      latexReturn,
    ),
    lines: [
      ...backwards(rewards, rest, discounts, length > shown),
      {
        label: 'error',
        parts: [num('reward', returned), say('−'), num('old', old), say('='), num('plain', returned - old)],
      },
      newValueLine(old, rate, returned - old, result),
    ],
    note: [
      length > shown
        ? `${formatCount(length)} rewards in all; the return after the first ${shown} stands for the rest.`
        : '',
      ended
        ? `The episode ended in ${labels[next]}.`
        : kind === 'n-step'
          ? `Ahead is the value of the action taken next, in ${labels[next]}.`
          : `The step limit cut the episode off in ${labels[next]}: what may come after is taken from the table.`,
    ]
      .filter(Boolean)
      .join(' '),
  }
}

/** One line a reward, the last one first: reward + discount × what came after. */
function backwards(rewards: Float64Array, rest: number, discounts: Float64Array, more: boolean) {
  let after = rest
  const lines = Array.from({ length: rewards.length }, (_, back) => {
    const at = rewards.length - 1 - back
    const parts: Part[] = [
      num('reward', rewards[at]),
      say('+'),
      num('rate', discounts[at]),
      say('×'),
      num(back === 0 ? 'next' : 'reward', after),
      say('='),
    ]
    after = rewards[at] + discounts[at] * after
    return {
      label: `return from ${at === 0 ? 'here' : `${at} later`}`,
      parts: [...parts, num('reward', after)],
    }
  })
  // Long returns: the first and the last of those that are kept say enough.
  return more || lines.length > SHOWN ? [...lines.slice(0, 1), ...lines.slice(-2)] : lines
}

/** A backup by what was seen. */
export function sweepingWorking(
  world: World,
  { discount }: LearnSettings,
  slot: Float64Array,
): Working | undefined {
  const row = slot[SLOT.row]
  if (row < 0) return undefined
  const [old, , , seen, result, step, rank] = sharedFields(slot)
  return {
    title: updateTitle(world, stateOfRow(world, row), row, step),
    formula: [
      say(`${Q} ←`),
      say('mean reward', 'reward'),
      say('+'),
      say('discount', 'rate'),
      say('× mean of'),
      say('max Q(next, ·)', 'next'),
    ],
    latex: String.raw`Q(s, a) \leftarrow \paid{\bar r} + \rate{\gamma} \sum_{s'} \chance{\tfrac{n(s')}{n}}\,\ahead{\max_{b} Q(s', b)}`,
    lines: [
      { label: 'was', parts: [num('old', old)] },
      { label: 'new value, by what was seen', parts: [num('result', result)], strong: true },
      {
        label: 'difference',
        parts: [num('result', result), say('−'), num('old', old), say('='), num('plain', result - old)],
      },
    ],
    note: `A mean over the ${formatCount(seen)} ${seen === 1 ? 'time' : 'times'} it was taken, discounted by ${discount}. It was number ${rank + 1} in the queue after that step.`,
  }
}
