import type { Model } from '../../core/model/model'
import { formatCount } from '../../core/formats/number'
import type { Overlay } from './overlay'

/** The states under the pointer in words, with the numbers that lie over them. */
export function describeStates(
  model: Model,
  states: Int32Array,
  overlay: Overlay | undefined,
  format: (value: number) => string,
): string {
  if (states.length === 0)
    return 'No state is here: no episode can get here, or the other variables have other values.'
  if (states.length > 1) {
    const open = Array.from(states).filter((s) => !model.ending[s])
    const mean =
      overlay?.values && open.length
        ? `; mean value ${format(open.reduce((sum, s) => sum + overlay.values![s], 0) / open.length)}`
        : ''
    return `${formatCount(states.length)} states, from ${model.labels[states[0]]}${mean}`
  }
  const [state] = states
  const parts: string[] = []
  if (model.ending[state]) parts.push('ending')
  if (model.startState.includes(state)) parts.push('start')
  if (!model.ending[state]) {
    if (overlay?.values && Number.isFinite(overlay.values[state]))
      parts.push(`value ${format(overlay.values[state])}`)
    if (overlay?.policy) parts.push(policyText(model, state, overlay.policy, format))
    else parts.push(`${model.rowStart[state + 1] - model.rowStart[state]} actions`)
  }
  return `${model.labels[state]}: ${parts.join('; ')}`
}

/** What a policy picks in a state: `policy north, east 0.5`. */
export function policyText(
  model: Model,
  state: number,
  policy: Float64Array,
  format: (value: number) => string,
): string {
  const picked: string[] = []
  for (let r = model.rowStart[state]; r < model.rowStart[state + 1]; r++)
    if (policy[r] >= 0.005)
      picked.push(`${model.actions[model.rowAction[r]]}${policy[r] < 0.995 ? ` ${format(policy[r])}` : ''}`)
  return `policy ${picked.slice(0, 4).join(', ')}${picked.length > 4 ? ' …' : ''}`
}
