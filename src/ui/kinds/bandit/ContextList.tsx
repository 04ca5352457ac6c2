'use client'

import { CONTEXT_LIMIT, type Bandit } from '../../../core/kinds/bandit/document'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NameField } from '../../parts/NameField'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'

/** What the agent may see before a pull. */
export function ContextList({ bandit, onBandit }: { bandit: Bandit; onBandit(part: Partial<Bandit>): void }) {
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
            name={name}
            fits={(text) => text !== '' && contexts.every((each, k) => k === i || each.name !== text)}
            rule="A name that no other context has"
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
