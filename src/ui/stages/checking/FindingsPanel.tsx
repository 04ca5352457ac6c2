'use client'

import { useState } from 'react'
import { useStore } from 'zustand'
import type { CheckReport, Finding, Severity } from '../../../core/check/finding'
import { leftOutText, reportMarkdown, scopeSentence, stepText } from '../../../core/check/report'
import { checkRule } from '../../../core/check/rules/rules'
import { formatCount } from '../../../core/formats/number'
import { kindOf } from '../../../core/kinds/kinds'
import { copyFindingLink, nameInLink } from '../../../session/check/finding-link'
import { Button } from '../../parts/Button'
import { downloadText } from '../../parts/download'
import { fileName } from '../../../core/formats/file-name'
import { Fold } from '../../study/Fold'
import { ProgressBar } from '../../parts/ProgressBar'
import { Section } from '../../parts/Section'
import { useCovered, useModel, useParts, useStudy } from '../../study/study-context'

/** Steps of a story that stand in the list; all of them stand in the table below the board. */
const TOLD = 4

/** What was found in all states that can be reached: faults first, then what holds, then facts. */
export function FindingsPanel() {
  const { check } = useParts()
  const { report, stale, progress, failure, stopped, missing } = useStore(check.store)
  const compiling = useModel((state) => state.progress !== null)
  const covered = useCovered()
  const name = useStudy((state) => state.document.name)
  return (
    <Section
      title="What was found"
      hint="In every state that an episode can reach, by every action and every outcome."
    >
      {(progress || compiling) && (
        <div role="status">
          <p className="text-[13px]">{compiling ? 'Compiling the model …' : 'Checking …'}</p>
          {progress && (
            <div className="flex items-center gap-3">
              <div className="min-w-0 flex-1">
                <ProgressBar value={progress.done} max={progress.of} label="Rules that are done" />
              </div>
              <Button className="!px-2 !py-0.5 text-[13px]" onClick={check.stop}>
                Stop
              </Button>
            </div>
          )}
        </div>
      )}
      {failure && (
        <p role="alert" className="text-alert">
          {failure}
        </p>
      )}
      {(stopped || failure) && (
        <div className="flex items-center gap-3" role="status">
          <span className="text-[13px]">
            {stopped ? 'Checking was stopped; any' : 'Any'} change starts it again.
          </span>
          <Button className="!px-2 !py-0.5 text-[13px]" onClick={check.again}>
            Check now
          </Button>
        </div>
      )}
      {!report && !progress && !compiling && !failure && !stopped && (
        <p className="text-ink-soft">Not checked yet.</p>
      )}
      {missing && (
        <p role="status" className="text-[13px] text-ink-soft">
          The link asks for {missing}, which is not found any more.
        </p>
      )}
      {report && (
        <div className={`space-y-2 ${stale ? 'opacity-50' : ''}`}>
          <Found report={report} covered={covered} />
          <Button
            className="!px-2 !py-0.5 text-[13px]"
            onClick={() =>
              downloadText(fileName(name, '-check.md'), reportMarkdown(name, report), 'text/markdown')
            }
          >
            Report (Markdown)
          </Button>
        </div>
      )}
    </Section>
  )
}

function Found({ report, covered }: { report: CheckReport; covered: boolean }) {
  // Numbers keep their places in the report, by which they are chosen.
  const shown = report.findings
    .map((finding, place) => ({ finding, place }))
    .filter(({ finding }) => !covered || !checkRule(finding.rule).tellsTruth)
  const faults = shown.filter(({ finding }) => finding.severity !== 'fact')
  const facts = shown.filter(({ finding }) => finding.severity === 'fact')
  const proved = report.proved.filter(({ rule }) => !covered || !checkRule(rule).tellsTruth)
  return (
    <>
      <Verdict report={report} faults={faults.map(({ finding }) => finding)} />
      {faults.length > 0 && (
        <ul className="space-y-1.5" aria-label="Faults">
          {faults.map(({ finding, place }) => (
            <FindingItem key={place} finding={finding} place={place} />
          ))}
        </ul>
      )}
      <div className="-space-y-px">
        {proved.length > 0 && (
          // Unfolded anew when the last fault is gone: that is what there is to see then.
          <Fold
            name={faults.length === 0 ? 'What holds, without a fault' : 'What holds'}
            title={`What holds in all states (${formatCount(proved.length)})`}
            small
            open={faults.length === 0}
          >
            <ul className="space-y-0.5 text-[13.5px]" aria-label="What holds">
              {proved.map(({ rule, sentence }) => (
                <li key={rule} className="flex gap-2">
                  <span className="text-spruce" aria-hidden>
                    ✓
                  </span>
                  {sentence}
                </li>
              ))}
            </ul>
          </Fold>
        )}
        {facts.length > 0 && (
          <Fold name="Facts" title={`Facts (${formatCount(facts.length)})`} small>
            <ul className="space-y-0.5 text-[13.5px]" aria-label="Facts">
              {facts.map(({ finding, place }) => (
                <FindingItem key={place} finding={finding} place={place} />
              ))}
            </ul>
          </Fold>
        )}
      </div>
      {report.leftOut.length > 0 && (
        <p className="text-[13px] text-ink-soft" aria-label="Not looked for">
          Not looked for: {report.leftOut.map(leftOutText).join(' ')}
        </p>
      )}
      {covered && <p className="text-[13px] text-ink-soft">What would tell the hidden truth is left out.</p>}
      <p className="text-[13px] text-ink-soft">{scopeSentence(report)}</p>
    </>
  )
}

function Verdict({ report, faults }: { report: CheckReport; faults: readonly Finding[] }) {
  const errors = faults.filter(({ severity }) => severity === 'error').length
  const warnings = faults.length - errors
  const words = [
    errors && `${formatCount(errors)} ${errors === 1 ? 'error' : 'errors'}`,
    warnings && `${formatCount(warnings)} ${warnings === 1 ? 'warning' : 'warnings'}`,
  ].filter(Boolean)
  return (
    <p
      role="status"
      data-testid="verdict"
      className={`border-l-4 py-0.5 pl-2.5 ${errors ? 'border-alert' : warnings ? 'border-brass-bright' : 'border-spruce'}`}
    >
      <b>{words.length ? `${words.join(', ')}.` : 'No error and no warning.'}</b>{' '}
      {report.states > 0 &&
        `${formatCount(report.states)} states and ${formatCount(report.rows)} pairs of state and action were looked at, all there are.`}
    </p>
  )
}

const EDGES: Readonly<Record<Severity, string>> = {
  error: 'border-alert',
  warning: 'border-brass-bright',
  fact: 'border-rule',
}

function FindingItem({ finding, place }: { finding: Finding; place: number }) {
  const { check } = useParts()
  const chosen = useStore(check.store, (state) => state.chosen === place)
  const { severity, where, cause, remedy, path, rule, walk, states, cells, span } = finding
  const isFact = severity === 'fact'
  const looks = walk !== null || states.length > 0 || cells.length > 0 || path.length > 0
  return (
    <li className={`border-l-4 pl-2.5 ${EDGES[severity]} ${chosen ? 'bg-rule/40' : ''}`} data-rule={rule}>
      <button
        type="button"
        className={`w-full text-left leading-5 ${looks ? '' : 'cursor-default'}`}
        aria-pressed={chosen}
        title={looks ? 'Shows the way there on the board' : undefined}
        onClick={() => looks && check.choose(place)}
      >
        {!isFact && <b>{where}: </b>}
        {cause}
        {looks && isFact && walk && (
          <span className="text-ink-soft underline decoration-dotted underline-offset-4"> show it</span>
        )}
      </button>
      {span && <MarkedLine span={span} place={place} />}
      {!isFact && (
        <p className="text-[13px] text-ink-soft" title={checkRule(rule).title}>
          {remedy} Rule: {rule}.
        </p>
      )}
      {chosen && <LinkButton place={place} />}
      {path.length > 0 && (!isFact || chosen) && (
        <ol className="mt-0.5 mb-1 text-[13px]" aria-label="The shortest way there">
          {path.length > TOLD && (
            <li className="text-ink-soft">{formatCount(path.length - TOLD)} steps before, then</li>
          )}
          {path.slice(-TOLD).map((step, i) => (
            <li key={i}>
              {Math.max(0, path.length - TOLD) + i + 1}. {stepText(step)}
            </li>
          ))}
        </ol>
      )}
    </li>
  )
}

/** Copies the address of the page with the finding that is looked at. */
function LinkButton({ place }: { place: number }) {
  const report = useStore(useParts().check.store, (state) => state.report)
  const [copied, setCopied] = useState(false)
  return (
    <Button
      className="!px-1.5 !py-0 text-[13px]"
      onClick={() => void copyFindingLink(nameInLink(report!, place)).then(() => setCopied(true))}
    >
      {copied ? 'Link copied' : 'Copy link'}
    </Button>
  )
}

/** The line of the rulebook that a finding is about, with its place marked; a click goes to it in the text. */
function MarkedLine({ span: { from, to }, place }: { span: NonNullable<Finding['span']>; place: number }) {
  const { check } = useParts()
  const show = useStudy((state) => state.show)
  const text = useStudy(({ document }) => kindOf(document).text(document))
  const stale = useStore(check.store, (state) => state.stale)
  // In a text that was changed since it may be another line.
  if (stale || to > text.length) return null
  const begin = text.lastIndexOf('\n', from - 1) + 1
  const newline = text.indexOf('\n', from)
  const end = newline < 0 ? text.length : newline
  const until = Math.min(to, end)
  return (
    <button
      type="button"
      className="my-0.5 block w-full rounded-sm bg-paper px-1.5 py-0.5 text-left hover:bg-rule/60"
      title="Goes to this line of the rulebook"
      onClick={() => {
        if (check.store.getState().chosen !== place) check.choose(place)
        show('build')
      }}
    >
      <code className="font-code text-[12.5px] leading-[18px] break-words whitespace-pre-wrap">
        {text.slice(begin, from)}
        <mark className="bg-brass-bright/40 text-ink">{text.slice(from, until)}</mark>
        {text.slice(until, end)}
      </code>
    </button>
  )
}
