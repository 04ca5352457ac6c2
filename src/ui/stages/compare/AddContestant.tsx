'use client'

import { useEffect } from 'react'
import { useStore } from 'zustand'
import type { Followed } from '../../../core/compare/followed'
import { canCompare } from '../../../session/compare/compare-session'
import { withMethod } from '../../../core/settings/with-method'
import { LEARN_METHOD_IDS, LEARN_METHODS, learnMethod } from '../../../core/learn/methods/methods'
import { Button } from '../../parts/Button'
import { useModel, useParts, useStudy } from '../../study/study-context'

const THREE = ['q-learning', 'sarsa', 'expected-sarsa'] as const
const OFFERED = LEARN_METHOD_IDS.filter((id) => learnMethod(id).purpose === 'control')

/** Something that can be added to the list. */
interface Offer {
  readonly title: string
  add(): void
}

/** What can be a contestant: what learns, and policies that do not. */
export function AddContestant() {
  const { compare, learn, kept } = useParts()
  const document = useStudy((state) => state.document)
  const compiled = useModel((state) => state.compiled)
  const choice = useStore(learn.store, (state) => state.choice)
  const tables = useStore(kept.store, (state) => state.list)
  useEffect(() => {
    void kept.refresh()
  }, [kept])
  const follow = (title: string, follows: Followed): Offer => ({
    title,
    add: () => compare.insert({ choice, knobs: {}, follows }),
  })
  const drawing = document.policy
  const groups: readonly { readonly title: string; readonly offers: readonly Offer[] }[] = [
    {
      title: 'Agents that learn',
      offers: [
        {
          title: 'Q-learning, SARSA and Expected SARSA',
          add: () => THREE.forEach((method) => compare.add(withMethod(choice, method))),
        },
        ...OFFERED.map((method) => ({
          title: LEARN_METHODS[method].title,
          add: () => compare.add(withMethod(choice, method)),
        })),
      ],
    },
    {
      title: 'Policies that do not learn',
      offers: [
        follow('a random agent', { kind: 'random' }),
        follow('the optimal policy', { kind: 'optimum' }),
        ...(compiled?.policies ?? []).map(({ title }) => follow(title, { kind: 'written', title })),
        ...(drawing ? [follow('the drawn policy', { kind: 'drawn', drawing })] : []),
        ...(compiled?.model.actions ?? [])
          .slice(0, 40)
          .map((action) => follow(`always ${action}`, { kind: 'action', action })),
      ],
    },
    {
      title: 'Kept tables',
      offers: (tables ?? [])
        .filter(({ holds }) => holds !== 'values')
        .slice(0, 40)
        .map(({ id, name }) => ({
          title: name,
          add: () =>
            void kept.read(id).then((checkpoint) => {
              if (checkpoint) compare.insert({ choice, knobs: {}, follows: { kind: 'table', checkpoint } })
            }),
        })),
    },
  ]
  const offers = groups.flatMap((group) => group.offers)
  return (
    <div className="flex flex-wrap gap-2 text-[13px]">
      <Button
        className="!px-1.5 !py-0.5 text-[13px]"
        title="The method and settings of Learn, as one more contestant"
        disabled={!canCompare(choice)}
        why="the method of Learn only evaluates a policy"
        onClick={() => compare.add(choice)}
      >
        Add the settings of Learn
      </Button>
      <select
        aria-label="Add a contestant"
        className="min-w-0 flex-1 rounded-sm border border-rule-strong bg-sheet px-1 py-0.5"
        value=""
        onChange={(event) => offers[Number(event.target.value)]?.add()}
      >
        <option value="" disabled>
          Add …
        </option>
        {groups
          .filter((group) => group.offers.length)
          .map((group) => (
            <optgroup key={group.title} label={group.title}>
              {group.offers.map((offer) => (
                <option key={offers.indexOf(offer)} value={offers.indexOf(offer)}>
                  {offer.title}
                </option>
              ))}
            </optgroup>
          ))}
      </select>
    </div>
  )
}
