import { newHead, type Head } from '../environment/head'

/** Discount and cap, where they are not those that a form without them is given. */
export function headLosses({ discount, cap }: Head): string[] {
  const usual = newHead('', '')
  return [
    ...(discount === usual.discount
      ? []
      : [`The discount ${discount} is not in it; ${usual.discount} is taken.`]),
    ...(cap === usual.cap ? [] : [`The step limit of ${cap} is not in it; ${usual.cap} is taken.`]),
  ]
}

/** What belongs to a document besides its kind's part. */
export function ownLosses({ knobs, policy, checks, learning }: Head): string[] {
  const own = [
    ...(knobs.length ? ['knobs'] : []),
    ...(policy ? ['the drawn policy'] : []),
    ...(checks?.length ? ['what is expected of it'] : []),
    ...(learning ? ['the settings of learning'] : []),
  ]
  return own.length ? [`Not in it: ${own.join(', ')}. JSON has them.`] : []
}
