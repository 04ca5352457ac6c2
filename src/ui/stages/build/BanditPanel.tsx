'use client'

import { useState } from 'react'
import type { BanditEnvironment } from '../../../core/environment/document'
import {
  ARM_LIMIT,
  CONTEXT_LIMIT,
  PULL_LIMIT,
  type Arm,
  type Bandit,
  type Drift,
} from '../../../core/bandit/document'
import { meanOf, PAY_OFFS, type PayOff } from '../../../core/bandit/pay-off'
import { formatNumber } from '../../../core/formats/number'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'
import { Select } from '../../parts/Select'
import { useStudy } from '../../study/study-context'

/** The controls of Build for a bandit: its arms, what the agent sees before a pull, how the pay-offs drift. */
export function BanditPanel({ document }: { document: BanditEnvironment }) {
  const edit = useStudy((state) => state.edit)
  const { bandit } = document
  const change = (part: Partial<Bandit>) => edit({ ...document, bandit: { ...bandit, ...part } })
  return (
    <>
      <label className="flex items-center gap-2" title="The board and every stage keep the pay-offs covered.">
        <input
          type="checkbox"
          className="size-4"
          checked={bandit.hidden}
          onChange={(event) => change({ hidden: event.target.checked })}
        />
        Hide the truth from the class
      </label>
      <Arms bandit={bandit} onBandit={change} />
      <Pulls bandit={bandit} onBandit={change} />
      <Contexts bandit={bandit} onBandit={change} />
    </>
  )
}

type Change = (part: Partial<Bandit>) => void

function Arms({ bandit, onBandit }: { bandit: Bandit; onBandit: Change }) {
  const [open, setOpen] = useState(0)
  const { arms, contexts, hidden } = bandit
  const put = (i: number, arm: Arm) => onBandit({ arms: arms.map((each, k) => (k === i ? arm : each)) })
  const add = () => {
    let number = arms.length + 1
    while (arms.some(({ name }) => name === `arm ${number}`)) number++
    onBandit({
      arms: [...arms, { name: `arm ${number}`, pays: arms.at(-1)?.pays ?? [PAY_OFFS.bernoulli.plain] }],
    })
    setOpen(arms.length)
  }
  return (
    <Section title={`Arms (${arms.length})`}>
      <ul className="divide-y divide-rule border-y border-rule">
        {arms.map((arm, i) => (
          <li key={i} className="py-1">
            <div className="flex items-center gap-2">
              <button
                type="button"
                className="flex min-w-0 flex-1 items-baseline gap-2 rounded-sm px-1 text-left hover:bg-rule/40"
                aria-expanded={open === i}
                onClick={() => setOpen(open === i ? -1 : i)}
              >
                <span className="truncate font-semibold">{arm.name}</span>
                <span className="ml-auto shrink-0 text-[13px] text-ink-soft">
                  {hidden
                    ? 'hidden'
                    : `${PAY_OFFS[arm.pays[0].type].title}, mean ${arm.pays.map((pays) => formatNumber(meanOf(pays), 3)).join(' | ')}`}
                </span>
              </button>
              <Button
                look="quiet"
                aria-label={`Remove ${arm.name}`}
                disabled={arms.length === 1}
                onClick={() => onBandit({ arms: arms.filter((_, k) => k !== i) })}
              >
                <Icon name="cross" className="size-4" />
              </Button>
            </div>
            {open === i && (
              <div className="space-y-2 px-1 py-2">
                <NameField
                  label="Name"
                  name={arm.name}
                  taken={arms.filter((each) => each !== arm).map((each) => each.name)}
                  onName={(name) => put(i, { ...arm, name })}
                />
                {contexts.length > 1 && (
                  <label className="flex items-center gap-1.5 text-[14px]">
                    <input
                      type="checkbox"
                      className="size-4"
                      checked={arm.pays.length > 1}
                      onChange={(event) =>
                        put(i, {
                          ...arm,
                          pays: event.target.checked
                            ? contexts.map((_, c) => arm.pays[c] ?? arm.pays[0])
                            : [arm.pays[0]],
                        })
                      }
                    />
                    pays differently in each context
                  </label>
                )}
                {arm.pays.map((pays, c) => (
                  <PayOffFields
                    key={c}
                    title={arm.pays.length > 1 ? (contexts[c]?.name ?? '') : ''}
                    pays={pays}
                    onPays={(next) =>
                      put(i, { ...arm, pays: arm.pays.map((each, k) => (k === c ? next : each)) })
                    }
                  />
                ))}
              </div>
            )}
          </li>
        ))}
      </ul>
      <Button disabled={arms.length >= ARM_LIMIT} onClick={add}>
        <Icon name="plus" className="size-4" /> Arm
      </Button>
    </Section>
  )
}

function PayOffFields({ title, pays, onPays }: { title: string; pays: PayOff; onPays(pays: PayOff): void }) {
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

const DRIFTS: Readonly<Record<Drift['type'], { readonly title: string; readonly plain: Drift }>> = {
  none: { title: 'stay as they are', plain: { type: 'none' } },
  walk: { title: 'wander (random walk)', plain: { type: 'walk', step: 0.1, seed: 1 } },
  switch: { title: 'change places', plain: { type: 'switch', every: 50 } },
}

function Pulls({ bandit, onBandit }: { bandit: Bandit; onBandit: Change }) {
  const { drift, pulls } = bandit
  return (
    <Section title="Pulls">
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Pulls in an episode"
          whole
          value={pulls}
          min={1}
          max={PULL_LIMIT}
          hint="With one pull the value of an arm is its mean."
          onChange={(next) => onBandit({ pulls: next })}
        />
        <Select
          label="The pay-offs"
          value={drift.type}
          options={Object.fromEntries(Object.entries(DRIFTS).map(([type, { title }]) => [type, title]))}
          onChange={(type) =>
            onBandit({
              drift: DRIFTS[type as Drift['type']].plain,
              ...(type !== 'none' && pulls === 1 ? { pulls: 200 } : {}),
            })
          }
        />
        {drift.type === 'walk' && (
          <>
            <NumberField
              label="Step (deviation per pull)"
              value={drift.step}
              min={0}
              aboveMin
              max={1e9}
              hint="Before every pull the mean of each arm takes a Gaussian step of this deviation."
              onChange={(step) => onBandit({ drift: { ...drift, step } })}
            />
            <NumberField
              label="Seed of the walk"
              whole
              value={drift.seed}
              min={0}
              max={Number.MAX_SAFE_INTEGER}
              hint="The walk is drawn once: it is the same in every episode and for every agent."
              onChange={(seed) => onBandit({ drift: { ...drift, seed } })}
            />
          </>
        )}
        {drift.type === 'switch' && (
          <NumberField
            label="Every (pulls)"
            whole
            value={drift.every}
            min={1}
            max={PULL_LIMIT}
            hint="Each arm then pays what the arm before it paid, the first what the last paid."
            onChange={(every) => onBandit({ drift: { ...drift, every } })}
          />
        )}
      </div>
      {drift.type !== 'none' && (
        <p className="text-[13px] text-ink-soft">
          The agent does not see the number of the pull, and so cannot know what has changed.
        </p>
      )}
    </Section>
  )
}

function Contexts({ bandit, onBandit }: { bandit: Bandit; onBandit: Change }) {
  const { contexts, arms } = bandit
  const add = () => {
    let number = contexts.length + 1
    while (contexts.some(({ name }) => name === `context ${number}`)) number++
    onBandit({
      contexts: [...contexts, { name: `context ${number}`, weight: 1 }],
      arms: arms.map((arm) =>
        arm.pays.length > 1 ? { ...arm, pays: [...arm.pays, arm.pays.at(-1)!] } : arm,
      ),
    })
  }
  const remove = (i: number) =>
    onBandit({
      contexts: contexts.filter((_, k) => k !== i),
      arms: arms.map((arm) =>
        arm.pays.length > 1
          ? {
              ...arm,
              pays: contexts.length <= 2 ? [arm.pays[i === 0 ? 1 : 0]] : arm.pays.filter((_, k) => k !== i),
            }
          : arm,
      ),
    })
  return (
    <Section title="Contexts">
      <p className="text-[13px] text-ink-soft">What the agent sees before each pull, drawn by weight.</p>
      {contexts.map(({ name, weight }, i) => (
        <div key={i} className="grid grid-cols-[1fr_6rem_1.75rem] items-end gap-2">
          <NameField
            label="Name"
            name={name}
            taken={contexts.filter((_, k) => k !== i).map((each) => each.name)}
            onName={(next) =>
              onBandit({ contexts: contexts.map((each, k) => (k === i ? { ...each, name: next } : each)) })
            }
          />
          <NumberField
            label="Weight"
            value={weight}
            min={0}
            aboveMin
            max={1e9}
            onChange={(next) =>
              onBandit({ contexts: contexts.map((each, k) => (k === i ? { ...each, weight: next } : each)) })
            }
          />
          <Button look="quiet" aria-label={`Remove ${name}`} onClick={() => remove(i)}>
            <Icon name="cross" className="size-4" />
          </Button>
        </div>
      ))}
      <Button disabled={contexts.length >= CONTEXT_LIMIT} onClick={add}>
        <Icon name="plus" className="size-4" /> Context
      </Button>
    </Section>
  )
}

function NameField({
  label,
  name,
  taken,
  onName,
}: {
  label: string
  name: string
  taken: readonly string[]
  onName(name: string): void
}) {
  const [draft, setDraft] = useState<string | null>(null)
  const wrong = draft !== null && (draft.trim() === '' || taken.includes(draft.trim()))
  return (
    <label className="block min-w-0">
      <span className="text-[13px] text-ink-soft">{label}</span>
      <input
        className={`w-full rounded-sm border bg-sheet px-2 py-1 leading-5 ${wrong ? 'border-alert' : 'border-rule-strong'}`}
        value={draft ?? name}
        maxLength={60}
        aria-invalid={wrong}
        title={wrong ? 'A name that no other has' : undefined}
        onChange={(event) => {
          setDraft(event.target.value)
          const text = event.target.value.trim()
          if (text && !taken.includes(text)) onName(text)
        }}
        onBlur={() => setDraft(null)}
      />
    </label>
  )
}
