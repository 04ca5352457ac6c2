'use client'

import { useState } from 'react'
import { useStore } from 'zustand'
import type { DocumentCheck } from '../../../core/environment/document-check'
import { EXPECTABLE_RULE_IDS } from '../../../core/check/rule-ids'
import { expectationText } from '../../../core/check/rules/expected'
import { checkRule } from '../../../core/check/rules/rules'
import { chosenAction } from '../../../core/check/walk-steps'
import { solveOptimum } from '../../../core/plan/solve'
import { stateAt } from '../../../session/study/cursor'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'
import { Select } from '../../parts/Select'
import { useCovered, useModel, useParts, useStudy } from '../../study/study-context'
import { useWalk } from './use-walk'

/** Models with more states are not solved just to suggest a number. */
const SUGGESTED = 20_000
const POLICIES = 40

/** What the author expects of the environment: kept with it, looked at after every change. */
export function ExpectationsPanel() {
  const { check } = useParts()
  const document = useStudy((state) => state.document)
  const edit = useStudy((state) => state.edit)
  const covered = useCovered()
  const { report, stale } = useStore(check.store)
  const checks = document.checks ?? []
  const broken = report && !stale ? report.findings.filter(({ rule }) => rule === 'expected') : []
  const put = (next: readonly DocumentCheck[]) => {
    const { checks: _, ...rest } = document
    edit(next.length ? { ...rest, checks: next } : rest)
  }
  if (covered) return null
  return (
    <Section
      title="Expectations"
      hint="Kept with the environment, and looked at after every change, here and by pawn check."
    >
      {checks.length === 0 && (
        <p className="text-[13px] text-ink-soft">
          Say what must hold: a value, an episode with its return, a policy that must beat another. It is kept
          with the environment and looked at after every change.
        </p>
      )}
      {checks.length > 0 && (
        <ul className="space-y-1 text-[13.5px]" aria-label="Expectations">
          {checks.map((each, i) => {
            const fault = broken.find(({ cause }) => cause.startsWith(expectationText(each)))
            return (
              <li key={i} className="flex items-start gap-2">
                <span
                  className={fault ? 'text-alert' : 'text-spruce'}
                  role="img"
                  aria-label={!report?.states || stale ? 'not looked at' : fault ? 'does not hold' : 'holds'}
                >
                  {!report?.states || stale ? '·' : fault ? '✗' : '✓'}
                </span>
                <span className="min-w-0 flex-1">{fault ? fault.cause : expectationText(each)}</span>
                <Button
                  look="quiet"
                  className="!p-0"
                  aria-label={`Remove expectation ${i + 1}`}
                  title="Remove it"
                  onClick={() => put(checks.filter((_, k) => k !== i))}
                >
                  <Icon name="cross" className="size-4" />
                </Button>
              </li>
            )
          })}
        </ul>
      )}
      <NewExpectation onAdd={(each) => put([...checks, each])} />
    </Section>
  )
}

const KINDS = {
  '': 'Add an expectation …',
  episode: 'this episode, with its return',
  value: 'the best value',
  reachable: 'that the selected state can be reached',
  never: 'that the selected state can never be reached',
  better: 'that a policy beats another one',
  rule: 'that a rule finds nothing',
} as const

/** One more, with what is on the board as a suggestion. */
function NewExpectation({ onAdd }: { onAdd(check: DocumentCheck): void }) {
  const [kind, setKind] = useState<keyof typeof KINDS>('')
  const walk = useWalk()
  const compiled = useModel((state) => state.compiled)
  const discount = useStudy((state) => state.document.discount)
  const drawn = useStudy((state) => state.document.policy !== undefined)
  const cursor = useStudy((state) => state.cursor)
  const [is, setIs] = useState(0)
  const [within, setWithin] = useState(0.01)
  const [policy, setPolicy] = useState('optimum')
  const [than, setThan] = useState('random')
  const [rule, setRule] = useState<string>('trap')
  if (!compiled || !walk) return null
  const { model } = compiled
  const selected = stateAt(compiled, cursor)
  const label = selected === null ? null : model.labels[selected]
  const choose = (next: keyof typeof KINDS) => {
    setKind(next)
    // The number that it has now, so that it is kept from changing.
    if (next === 'value' && model.states <= SUGGESTED)
      setIs(Number((solveOptimum(model, discount)?.start ?? 0).toPrecision(8)))
  }
  const policies = Object.fromEntries(
    [
      'optimum',
      'random',
      ...(drawn ? ['drawn'] : []),
      ...compiled.policies.map(({ title }) => title),
      ...model.actions.slice(0, POLICIES).map((action) => `always ${action}`),
    ].map((name) => [name, name]),
  )
  const taken = walk.steps.slice(0, walk.at)
  const made: { readonly check: DocumentCheck | null; readonly why: string } = (() => {
    switch (kind) {
      case 'episode':
        return {
          check: taken.length
            ? {
                kind,
                start: model.labels[walk.walk.start],
                steps: taken.map((step) => ({
                  action: chosenAction(model, step),
                  to: model.labels[step.next],
                  reward: step.reward,
                })),
                return: Number(taken[taken.length - 1].collected.toPrecision(12)),
                within: 1e-6,
              }
            : null,
          why: 'take some steps first',
        }
      case 'value':
        return { check: { kind, is, within }, why: '' }
      case 'reachable':
      case 'never':
        return {
          check: label === null ? null : { kind: 'reachable', state: label, expected: kind === 'reachable' },
          why: 'select a state on the board',
        }
      case 'better':
        return { check: { kind, policy, than, by: 0 }, why: '' }
      case 'rule':
        return { check: { kind, rule, expected: 'holds' }, why: '' }
      case '':
        return { check: null, why: 'choose what is expected' }
      default:
        return kind satisfies never
    }
  })()
  return (
    <div className="space-y-2 text-[13px]">
      <Select
        label="New expectation"
        value={kind}
        options={KINDS}
        onChange={(value) => choose(value as keyof typeof KINDS)}
      />
      {kind === 'value' && (
        <div className="grid grid-cols-2 gap-3">
          <NumberField label="Best value of the start" value={is} min={-1e12} max={1e12} onChange={setIs} />
          <NumberField label="Within" value={within} min={0} max={1e12} onChange={setWithin} />
        </div>
      )}
      {kind === 'better' && (
        <div className="grid grid-cols-2 gap-3">
          <Select label="Better policy" value={policy} options={policies} onChange={setPolicy} />
          <Select label="Worse policy" value={than} options={policies} onChange={setThan} />
        </div>
      )}
      {kind === 'rule' && (
        <Select
          label="Rule that finds nothing"
          value={rule}
          options={Object.fromEntries(
            EXPECTABLE_RULE_IDS.filter((id) => checkRule(id).severity !== 'fact').map((id) => [
              id,
              checkRule(id).title,
            ]),
          )}
          onChange={setRule}
        />
      )}
      {kind !== '' && (
        <div className="flex items-start gap-3">
          <Button
            disabled={made.check === null}
            why={made.why}
            onClick={() => {
              if (!made.check) return
              onAdd(made.check)
              setKind('')
            }}
          >
            Expect it
          </Button>
          <p className="text-ink-soft">
            {made.check ? expectationText(made.check) : `To do so, ${made.why}.`}
          </p>
        </div>
      )}
    </div>
  )
}
