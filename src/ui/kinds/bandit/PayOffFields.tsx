'use client'

import { PAY_OFFS, type PayOff } from '../../../core/kinds/bandit/pay-off'
import { formatNumber } from '../../../core/formats/number'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'

/** What a pull pays: its kind, and the numbers of that kind. */
export function PayOffFields({
  title,
  pays,
  onPays,
}: {
  title: string
  pays: PayOff
  onPays(pays: PayOff): void
}) {
  const field = (label: string, value: number, put: (value: number) => PayOff, low = -1e9, high = 1e9) => (
    <NumberField label={label} value={value} min={low} max={high} onChange={(next) => onPays(put(next))} />
  )
  return (
    <div className="space-y-2">
      {title && <p className="text-[13px] font-semibold">{title}</p>}
      <div className="grid grid-cols-3 gap-2">
        <Select
          label="Pay-off"
          value={pays.type}
          options={Object.fromEntries(Object.entries(PAY_OFFS).map(([type, kind]) => [type, kind.title]))}
          onChange={(type) => onPays(PAY_OFFS[type as PayOff['type']].plain)}
        />
        {pays.type === 'bernoulli' && (
          <>
            {field('Chance', pays.chance, (chance) => ({ ...pays, chance }), 0, 1)}
            {field('Pays then', pays.reward, (reward) => ({ ...pays, reward }))}
          </>
        )}
        {pays.type === 'gaussian' && (
          <>
            {field('Mean', pays.mean, (mean) => ({ ...pays, mean }))}
            {field('Deviation', pays.deviation, (deviation) => ({ ...pays, deviation }), 0)}
          </>
        )}
        {pays.type === 'uniform' && (
          <>
            {field('From', pays.low, (low) => ({ ...pays, low }), -1e9, pays.high)}
            {field('To', pays.high, (high) => ({ ...pays, high }), pays.low)}
          </>
        )}
      </div>
      {pays.type === 'categorical' && <Outcomes pays={pays} onPays={onPays} />}
    </div>
  )
}

function Outcomes({
  pays,
  onPays,
}: {
  pays: Extract<PayOff, { type: 'categorical' }>
  onPays(pays: PayOff): void
}) {
  const { outcomes } = pays
  const total = outcomes.reduce((sum, { weight }) => sum + weight, 0)
  const put = (i: number, part: Partial<(typeof outcomes)[number]>) =>
    onPays({ ...pays, outcomes: outcomes.map((each, k) => (k === i ? { ...each, ...part } : each)) })
  return (
    <>
      {outcomes.map(({ reward, weight }, i) => (
        <div key={i} className="grid grid-cols-[1fr_1fr_4.5rem_1.75rem] items-end gap-2">
          <NumberField
            label="Reward"
            value={reward}
            min={-1e9}
            max={1e9}
            onChange={(next) => put(i, { reward: next })}
          />
          <NumberField
            label="Weight"
            value={weight}
            min={0}
            aboveMin
            max={1e9}
            onChange={(next) => put(i, { weight: next })}
          />
          <span className="pb-1 text-[13px] text-ink-soft">chance {formatNumber(weight / total, 3)}</span>
          <Button
            look="quiet"
            aria-label={`Remove reward ${reward}`}
            disabled={outcomes.length === 1}
            onClick={() => onPays({ ...pays, outcomes: outcomes.filter((_, k) => k !== i) })}
          >
            <Icon name="cross" className="size-4" />
          </Button>
        </div>
      ))}
      <Button
        disabled={outcomes.length >= 20}
        onClick={() => onPays({ ...pays, outcomes: [...outcomes, { reward: 0, weight: 1 }] })}
      >
        <Icon name="plus" className="size-4" /> Reward
      </Button>
    </>
  )
}
