import { formatNumber } from '../../../formats/number'
import { POLICY_SLOT } from './preference-learner'

/** Keeps what an action was judged by: the reward, and the critic's value of what came next. */
export function noteAhead(slots: Float64Array, at: number, reward: number, ahead: number): void {
  slots[at + POLICY_SLOT.reward] = reward
  slots[at + POLICY_SLOT.ahead] = ahead
}

/** Says how the critic judged the action, with its numbers. */
export function sayAhead(slot: (field: number) => number, discount: number): string {
  const text = (field: number) => formatNumber(slot(field), 5)
  return ` Judged by the critic: reward ${text(POLICY_SLOT.reward)} + ${formatNumber(discount, 5)} × ${text(POLICY_SLOT.ahead)} next = ${text(POLICY_SLOT.worth)}, compared with its ${text(POLICY_SLOT.baseline)} here.`
}
