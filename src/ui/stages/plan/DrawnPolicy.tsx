'use client'

import { useStore } from 'zustand'
import { withDrawn } from '../../../core/evaluate/drawn-policy'
import { Button } from '../../parts/Button'
import { LineSelect } from '../../parts/Select'
import { stateAt } from '../../../session/study/cursor'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { isDrawing } from '../../../session/plan/policy-source'
import { kindView } from '../../kinds/kinds'

/** Setting the action of the selected state by hand. */
export function DrawnPolicy() {
  const { plan } = useParts()
  const drawing = useStore(plan.store, isDrawing)
  const document = useStudy((state) => state.document)
  const edit = useStudy((state) => state.edit)
  const cursor = useStudy((state) => state.cursor)
  const compiled = useModel((state) => state.compiled)
  if (!drawing || !compiled) return null
  const { model } = compiled
  const state = stateAt(compiled, cursor)
  const drawn = document.policy ?? {}
  const label = state === null ? '' : model.labels[state]
  const set = (action: string | null) => edit({ ...document, policy: withDrawn(drawn, label, action) })
  const actions =
    state === null
      ? []
      : Array.from(
          model.rowAction.subarray(model.rowStart[state], model.rowStart[state + 1]),
          (action) => model.actions[action],
        )
  return (
    <section aria-label="Drawn policy" className="space-y-1.5 border-l-4 border-slate pl-2.5">
      <p className="text-[13px] text-ink-soft">
        {kindView(document.kind).policyHint} {Object.keys(drawn).length} of{' '}
        {model.states - model.ending.reduce((sum, x) => sum + x, 0)} states are drawn; the others take every
        action equally often.
      </p>
      {state !== null && actions.length > 0 && (
        <div className="flex flex-wrap items-center gap-1.5">
          <span className="text-[13px]">{label} takes</span>
          {actions.slice(0, 12).map((action) => (
            <Button
              key={action}
              className="px-1.5 py-0 text-[13px]"
              look={drawn[label] === action ? 'ink' : 'plain'}
              aria-pressed={drawn[label] === action}
              onClick={() => set(drawn[label] === action ? null : action)}
            >
              {action}
            </Button>
          ))}
          {actions.length > 12 && (
            <LineSelect
              label={`Action of ${label}`}
              value={drawn[label] ?? ''}
              options={[['', 'uniform random policy'], ...actions.map((action) => [action, action] as const)]}
              onChange={(action) => set(action || null)}
            />
          )}
        </div>
      )}
      {Object.keys(drawn).length > 0 && (
        <Button className="px-1.5 py-0 text-[13px]" onClick={() => edit({ ...document, policy: undefined })}>
          Clear the drawn policy
        </Button>
      )}
    </section>
  )
}
