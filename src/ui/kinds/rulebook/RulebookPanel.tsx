'use client'

import { useMemo } from 'react'
import type { RulebookDocument } from '../../../core/kinds/rulebook/document'
import type { RulebookFacts } from '../../../core/kinds/rulebook/facts'
import type { RulebookEnvironment } from '../../../core/kinds/rulebook/kind'
import { formatCount, formatNumber } from '../../../core/formats/number'
import type { Model } from '../../../core/model/model'
import { listNames } from '../../../core/problem'
import type { CheckResult } from '../../../core/kinds/rulebook/facts'
import { largestSize } from '../../../core/kinds/rulebook/largest-size'
import { penaltyOf, withTreatment } from '../../../core/kinds/rulebook/edit'
import type { Treatment } from '../../../core/kinds/rulebook/syntax'
import { Button } from '../../parts/Button'
import { Section } from '../../parts/Section'
import { stateAt } from '../../../session/study/cursor'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { KnobPanel } from '../../study/KnobPanel'

/** What a rulebook amounts to: its knobs, its size, its checks, what its policies are worth. */
export function RulebookPanel({ document }: { document: RulebookEnvironment }) {
  return (
    <>
      <KnobPanel document={document} />
      <Size rulebook={document.rulebook} />
      <PassingTime discount={document.discount} />
      <Worth />
      <Checks />
      <Impossible document={document} />
      <SelectedState />
    </>
  )
}

/** What is known of the rulebook besides its model; of the last one that was right. */
function useFacts(): RulebookFacts | undefined {
  return useModel(({ compiled }) => (compiled?.kind === 'rulebook' ? compiled.facts : undefined))
}

function Size({ rulebook }: { rulebook: RulebookDocument }) {
  const { model: session } = useParts()
  const compiled = useModel((state) => state.compiled)
  const progress = useModel((state) => state.progress)
  const stopped = useModel((state) => state.stopped)
  const stale = useModel((state) => state.problems.length > 0)
  const facts = useFacts()
  const counting = progress !== null
  const most = useMemo(() => (counting ? largestSize(rulebook) : null), [counting, rulebook])
  return (
    <Section title="Size">
      <p className="text-[14px]" data-testid="size">
        {compiled ? (
          <span className={stale || progress ? 'text-ink-soft' : ''}>
            <span className="font-semibold">{formatCount(compiled.model.states)} states</span>,{' '}
            {formatCount(compiled.model.ending.reduce((sum, each) => sum + each, 0))} of them endings ·{' '}
            <span className="font-semibold">{compiled.model.actions.length} actions</span> · table of{' '}
            {formatCount(compiled.model.rows)} values
            {compiled.model.observations < compiled.model.states &&
              ` · the agent tells ${formatCount(compiled.model.observations)} of the states apart`}
          </span>
        ) : progress ? null : (
          <span className="text-ink-soft">Not known until the rulebook is right.</span>
        )}
      </p>
      {stale && compiled && (
        <p className="border-l-4 border-alert pl-2.5 text-[14px]">
          Something is wrong with the rulebook: the board keeps the last model that was right.
        </p>
      )}
      {facts && (
        <p className="text-[13px] leading-5 text-ink-soft">
          Values of each variable:{' '}
          {facts.sizes.map(({ name, size }) => `${name} ${formatCount(size)}`).join(' × ')}
          {facts.sizes.length > 1 &&
            ` = ${formatCount(facts.sizes.reduce((product, { size }) => product * size, 1))} combinations`}
          . Only those that an episode can reach are states.
          {facts.unordered !== null &&
            compiled &&
            ` Without the “same” lines there would be up to ${formatCount(facts.unordered)} states.`}
        </p>
      )}
      {progress && progress.states > 0 && (
        <div className="flex items-center gap-3" role="status">
          <span className="text-[14px]">
            Counting: {formatCount(progress.states)} states, {formatCount(progress.rows)} values{'\u00a0'}…
            {most && (
              <span className="block text-[13px] leading-5 text-ink-soft">
                There can be up to {formatCount(most.states)} states and {formatCount(most.values)} values:{' '}
                {most.contributions}. To make it smaller, shrink {most.largest} first.
              </span>
            )}
          </span>
          <Button onClick={session.stop}>Stop</Button>
        </div>
      )}
      {stopped && (
        <p role="status" className="text-[14px] text-brass">
          Counting was stopped; the board shows the last model. Any change begins again.
        </p>
      )}
    </Section>
  )
}

/** What time means where steps have discounts of their own, or states pass by themselves. */
function PassingTime({ discount }: { discount: number }) {
  const facts = useFacts()
  const passing = facts?.passing ?? null
  const each = formatNumber(discount, 6)
  if (facts?.discounts)
    return (
      <Section title="Time that steps take">
        <p className="text-[13px] leading-5 text-ink-soft" data-testid="passing">
          {discount === 1
            ? 'Every step is discounted by its “discount” lines alone.'
            : `Every step is discounted by its “discount” lines, and what follows a decision by ${each} as well, the discount of the environment. Set that to 1 for the lines to count alone.`}
        </p>
      </Section>
    )
  if (passing === null || (discount === 1 && passing === 1)) return null
  return (
    <Section title="Time that passes by itself">
      <p className="text-[13px] leading-5 text-ink-soft" data-testid="passing">
        {passing === 1
          ? `States that pass take no time: their rewards count in full, and what follows is discounted once, by ${each}, however long the stretch was. “pass when … discounted ${each}” would count every step of it.`
          : `Every step that passes is discounted by ${formatNumber(passing, 6)}, and the step of a decision by ${each}${passing === discount ? ': all steps count alike.' : '. They differ: is that intended?'}`}
      </p>
    </Section>
  )
}

function Worth() {
  const scores = useModel((state) => state.scores)
  const measures = useModel((state) => state.compiled?.measures)
  if (!scores || !measures) return null
  return (
    <Section title="Exact values of policies">
      <table className="w-full text-[14px]" data-testid="worth">
        <thead>
          <tr className="border-b border-rule-strong text-left text-[13px] text-ink-soft">
            <th className="py-0.5 font-normal">from the start</th>
            <th className="text-right font-normal">value</th>
            {measures.map(({ name }) => (
              <th
                key={name}
                className="max-w-24 truncate pl-2 text-right font-normal"
                title={`${name}, expected over an episode`}
              >
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {scores.map((score) => (
            <tr key={score.title} className="border-b border-rule">
              <td
                className={`max-w-32 truncate py-0.5 ${score.optimal ? 'font-semibold' : ''}`}
                title={score.title}
              >
                {score.title}
              </td>
              <td className="text-right font-semibold">
                {score.value === null ? 'none' : formatNumber(score.value, 3)}
              </td>
              {score.measures.map((value, m) => (
                <td key={measures[m].name} className="pl-2 text-right">
                  {value === null ? '–' : formatNumber(value, 2)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  )
}

function Checks() {
  const checks = useFacts()?.checks
  const states = useModel((state) => state.compiled?.model.states)
  if (!checks?.length || states === undefined) return null
  return (
    <Section title="Checks">
      <ul className="space-y-2 text-[14px]">
        {checks.map((check) => (
          <li
            key={check.title}
            className={`border-l-4 pl-2.5 ${check.broken ? 'border-alert' : 'border-spruce'}`}
          >
            <span className="font-semibold">{check.title}</span>{' '}
            {check.broken ? (
              <Breach broken={check.broken} />
            ) : (
              <span className="text-ink-soft">
                holds in every step from all {formatCount(states)} states.
              </span>
            )}
          </li>
        ))}
      </ul>
    </Section>
  )
}

/** Steps of a way to a breach that are shown. */
const SHOWN = 8

function Breach({ broken }: { broken: NonNullable<CheckResult['broken']> }) {
  const { path } = broken
  const hidden = Math.max(0, path.length - SHOWN)
  return (
    <>
      <span className="text-alert">is broken.</span>
      <table className="mt-1 w-full text-[13px]">
        <caption className="sr-only">The shortest way to the violation</caption>
        <thead>
          <tr className="text-left text-ink-soft">
            <th className="font-normal">state</th>
            <th className="pl-2 text-right font-normal">action and random outcomes</th>
          </tr>
        </thead>
        <tbody>
          {hidden > 0 && (
            <tr>
              <td colSpan={2} className="text-ink-soft">
                after {hidden} steps
              </td>
            </tr>
          )}
          {path.slice(hidden).map(({ state, action, chances }, i) => (
            <tr key={i} className="border-b border-rule">
              <td className="py-0.5">{state}</td>
              <td className="pl-2 text-right">
                {action}
                <Fell chances={chances} />
              </td>
            </tr>
          ))}
          <tr className="font-semibold">
            <td className="py-0.5">{broken.state}</td>
            <td className="pl-2 text-right">
              {broken.action}
              <Fell chances={broken.chances} />
            </td>
          </tr>
        </tbody>
      </table>
    </>
  )
}

/** How chance fell in a step, below its action. */
function Fell({ chances }: { chances: string }) {
  return chances ? <span className="block font-normal text-ink-soft">{chances}</span> : null
}

/** The selected state, variable by variable, and as plain text. */
function SelectedState() {
  const compiled = useModel((state) => state.compiled)
  const cursor = useStudy((state) => state.cursor)
  const state = stateAt(compiled, cursor)
  if (!compiled?.space || state === null) return null
  const { model, space } = compiled
  const width = space.axes.length
  const actions = Array.from(
    model.rowAction.subarray(model.rowStart[state], model.rowStart[state + 1]),
    (a) => model.actions[a],
  )
  return (
    <Section title="Selected state">
      <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 text-[14px]">
        {space.axes.map((axis, i) => {
          const value = space.index[state * width + i]
          return value < 0 ? null : (
            <div key={axis.name} className="contents">
              <dt className="text-ink-soft">{axis.name}</dt>
              <dd className="font-semibold">{axis.texts[value]}</dd>
            </div>
          )
        })}
        <dt className="text-ink-soft">offers</dt>
        <dd>{model.ending[state] ? 'nothing: an ending' : listNames(actions, 8)}</dd>
        {model.observations < model.states && (
          <>
            <dt className="text-ink-soft">looks like</dt>
            <dd>{listNames(alike(model, state), 5) || 'no other state'}</dd>
          </>
        )}
        <dt className="text-ink-soft">as text</dt>
        <dd>
          <code className="select-all">{model.labels[state]}</code>
        </dd>
      </dl>
    </Section>
  )
}

/** The other states that the agent cannot tell from this one. */
function alike({ observation, labels }: Model, state: number): string[] {
  return labels.filter((_, s) => s !== state && observation[s] === observation[state])
}

const TREATMENTS: Readonly<Record<Treatment, { title: string; says: string }>> = {
  forbidden: { title: 'Forbid', says: 'They are not offered at all.' },
  clamped: {
    title: 'Clamp',
    says: 'They act as the nearest possible level, else as the first possible action.',
  },
  penalised: {
    title: 'Penalise',
    says: 'They are allowed: values that leave their range stop at its end, and the penalty is subtracted.',
  },
}

function Impossible({ document }: { document: RulebookEnvironment }) {
  const edit = useStudy((state) => state.edit)
  const treatment = useFacts()?.treatment
  const { rulebook } = document
  if (!treatment || !/^action .*\bwhen\b/m.test(rulebook.text)) return null
  return (
    <Section title="Impossible actions">
      <div className="flex" role="radiogroup" aria-label="Impossible actions">
        {(Object.keys(TREATMENTS) as Treatment[]).map((each) => (
          <button
            key={each}
            type="button"
            role="radio"
            aria-checked={treatment === each}
            className={`flex-1 border border-rule-strong px-2 py-0.5 not-first:border-l-0 first:rounded-l-sm last:rounded-r-sm ${treatment === each ? 'bg-ink text-paper' : 'bg-sheet'}`}
            onClick={() =>
              edit({
                ...document,
                rulebook: { ...rulebook, text: withTreatment(rulebook.text, each, penaltyOf(rulebook.text)) },
              })
            }
          >
            {TREATMENTS[each].title}
          </button>
        ))}
      </div>
      <p className="text-[13px] text-ink-soft">
        {TREATMENTS[treatment].says} The switch changes a line of the rulebook.
      </p>
    </Section>
  )
}
