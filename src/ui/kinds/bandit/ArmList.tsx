'use client'

import { Checkbox } from '../../parts/Checkbox'
import { useState } from 'react'
import { ARM_LIMIT, type Arm, type Bandit } from '../../../core/kinds/bandit/document'
import { meanOf, PAY_OFFS } from '../../../core/kinds/bandit/pay-off'
import { formatNumber } from '../../../core/formats/number'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NameField } from '../../parts/NameField'
import { Section } from '../../parts/Section'
import { PayOffFields } from './PayOffFields'

/** The arms of a bandit; one at a time is open to be changed. */
export function ArmList({ bandit, onBandit }: { bandit: Bandit; onBandit(part: Partial<Bandit>): void }) {
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
                  name={arm.name}
                  fits={(text) => text !== '' && arms.every((each, k) => k === i || each.name !== text)}
                  rule="A name that no other arm has"
                  onName={(name) => put(i, { ...arm, name })}
                />
                {contexts.length > 1 && (
                  <Checkbox
                    className="text-[14px]"
                    checked={arm.pays.length > 1}
                    onChange={(checked) =>
                      put(i, {
                        ...arm,
                        pays: checked ? contexts.map((_, c) => arm.pays[c] ?? arm.pays[0]) : [arm.pays[0]],
                      })
                    }
                  >
                    pays differently in each context
                  </Checkbox>
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
