import { CHANCE_RANGE, REWARD_RANGE, type DocumentNumber } from '../../environment/head-knobs'
import type { DocumentOf } from '../kind'
import type { Bandit } from './document'
import type { PayOff } from './pay-off'

/** The numbers of each pay-off that a knob can turn. */
const PAY_FIELDS: { readonly [T in PayOff['type']]: readonly string[] } = {
  bernoulli: ['chance', 'reward'],
  gaussian: ['mean', 'deviation'],
  uniform: [],
  categorical: [],
}

/** Every number of a bandit that a knob can be given. */
export function banditNumbers(
  document: DocumentOf<'bandit', Bandit>,
): DocumentNumber<DocumentOf<'bandit', Bandit>>[] {
  const { bandit } = document
  const { drift } = bandit
  const change = (part: Partial<typeof bandit>) => ({
    ...document,
    bandit: { ...bandit, ...part },
  })
  const arms = bandit.arms.flatMap(({ name, pays }, a) =>
    pays.flatMap((payOff, c) =>
      PAY_FIELDS[payOff.type].map((field) => {
        const where = pays.length > 1 ? ` for ${bandit.contexts[c]?.name ?? c + 1}` : ''
        return {
          key: `arms[${name}]${pays.length > 1 ? `.pays[${c}]` : ''}.${field}`,
          title: `${name}${where}: ${field}`,
          value: payOff[field as keyof PayOff] as unknown as number,
          ...(field === 'chance'
            ? CHANCE_RANGE
            : field === 'deviation'
              ? { low: 0, high: 1e9 }
              : REWARD_RANGE),
          put: (value: number) =>
            change({
              arms: bandit.arms.map((arm, k) =>
                k === a
                  ? {
                      ...arm,
                      pays: arm.pays.map((other, i) => (i === c ? { ...other, [field]: value } : other)),
                    }
                  : arm,
              ),
            }),
        }
      }),
    ),
  )
  if (drift.type !== 'walk') return arms
  const step: DocumentNumber<DocumentOf<'bandit', Bandit>> = {
    key: 'drift.step',
    title: 'Step of the random walk',
    value: drift.step,
    low: 1e-9,
    high: 1e9,
    put: (value) => change({ drift: { ...drift, step: value } }),
  }
  return [...arms, step]
}
