'use client'

import { useStore } from 'zustand'
import { formatCount } from '../../../core/formats/number'
import type { LearnMethod } from '../../../core/learn/methods/method'
import {
  LEARN_METHOD_IDS,
  LEARN_METHODS,
  learnMethod,
  type LearnMethodId,
} from '../../../core/learn/methods/methods'
import { collapsedStates, SETTLED } from '../../../core/learn/collapse'
import { EXPLORATIONS } from '../../../core/learn/explore/explorations'
import { settingsInBrief } from '../../../core/settings/settings-in-brief'
import { pictureScale } from '../../board/scales'
import { colourAsProperty } from '../../board/svg-pen'
import { valueColour } from '../../board/value-scale'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { ProblemList } from '../../parts/ProblemList'
import { Select } from '../../parts/Select'
import { StudyTabs } from '../../study/StudyTabs'
import { isBandit } from '../../../session/learn/agents-session'
import { stateAt } from '../../../session/study/cursor'
import { EndingNotes } from '../../study/EndingNotes'
import { useCovered, useModel, useParts, useStudy } from '../../study/study-context'
import { useOverlay } from '../../study/use-overlay'
import { PseudoCode } from '../../working/PseudoCode'
import { WorkingView } from '../../working/WorkingView'
import { AgentsPanel } from './AgentsPanel'
import { DiagnosisPanel } from './DiagnosisPanel'
import { RunTable } from './RunTable'
import { EpisodePanel } from './EpisodePanel'
import { KeepPanel } from './KeepPanel'
import { LastStepLine } from './LastStepLine'
import { LearnFields } from './LearnFields'
import { MoreSettings } from './MoreSettings'
import { SeedsPanel } from './SeedsPanel'
import { TrialsPanel } from './TrialsPanel'

/** The methods by what they learn. */
const METHOD_GROUPS = Object.entries({
  'Action values': (each: LearnMethod) => each.purpose === 'control' && each.tableHolds === 'action values',
  'Policy search': (each: LearnMethod) => each.tableHolds === 'preferences',
  'Values of a policy': (each: LearnMethod) => each.purpose === 'prediction',
}).map(([title, belongs]) => ({
  title,
  options: LEARN_METHOD_IDS.filter((id) => belongs(learnMethod(id))).map(
    (id) => [id, LEARN_METHODS[id].title] as const,
  ),
}))

/** The controls of Learn, the last step, and what explains it. */
export function LearnPanel() {
  const { learn, seeds, diagnosis, agents, trials, course } = useParts()
  const onCourse = useStore(course.store, (state) => state.at !== null)
  const watching = useStore(trials.store, (state) => state.running || state.watched !== null)
  const manyRunning = useStore(seeds.store, (state) => state.running)
  const diagnosing = useStore(diagnosis.store, (state) => state.progress !== null)
  const agentsRunning = useStore(agents.store, (state) => state.running)
  const bandit = useStudy((state) => isBandit(state.document))
  const compiled = useModel((state) => state.compiled)
  const problems = useModel((state) => state.problems)
  const { choice, running, given, frame, failure, notice, kept, broken } = useStore(learn.store)
  if (!compiled) return <ProblemList problems={problems} />
  const pending = running !== null && choice !== running
  const status = frame?.status
  return (
    <div className="space-y-2.5">
      <section className="space-y-2">
        <div className="flex items-end gap-3">
          <div className="min-w-0 flex-1">
            <Select
              label="Method"
              value={choice.method}
              groups={METHOD_GROUPS}
              onChange={(value) => learn.choose({ method: value as LearnMethodId })}
            />
          </div>
          <Button
            look={pending ? 'ink' : 'plain'}
            onClick={learn.restart}
            title="Forget what was learned and start over"
          >
            <Icon name="restart" className="size-4" /> Start over
          </Button>
        </div>
        <LearnSettings />
        {pending && (
          <p role="status" className="text-[13px] text-brass">
            The run on the board still has the settings it was started with. Start over to use these.
          </p>
        )}
        {given && (
          <p className="border-l-4 border-slate pl-2.5 text-[13px] text-ink-soft">
            The run began with {given.title}.
          </p>
        )}
      </section>
      {notice && (
        <p role="alert" className="border-l-4 border-alert pl-2.5">
          {notice}
        </p>
      )}
      {broken && (
        <div role="status" className="space-y-1.5 border-l-4 border-slate pl-2.5 text-[13px]">
          <p>
            A run of {LEARN_METHODS[broken.place.choice.method].title}{' '}
            {broken.place.done ? 'was finished' : 'was interrupted'} when this page was left, after{' '}
            {formatCount(broken.place.reached)} steps
            {broken.place.at < broken.place.reached && `, and stood at step ${formatCount(broken.place.at)}`}.
          </p>
          <div className="flex gap-2">
            <Button onClick={learn.takeUpBroken}>{broken.place.done ? 'Show it again' : 'Resume it'}</Button>
            <Button onClick={learn.forgetBroken}>Discard it</Button>
          </div>
        </div>
      )}
      {failure && (
        <div role="alert" className="space-y-1.5 border-l-4 border-alert pl-2.5">
          <p>{failure} What was learned up to the last keyframe is kept.</p>
          <Button onClick={() => (running && kept ? learn.takeUp(running, kept) : learn.restart())}>
            {kept ? `Resume the run from step ${formatCount(kept.snapshot.numbers.steps)}` : 'Start over'}
          </Button>
        </div>
      )}
      <EndingNotes cap={(running ?? choice).cap} />
      {status?.outcome === 'diverged' && (
        <p role="alert" className="border-l-4 border-alert pl-2.5">
          {status.reason}
        </p>
      )}
      {status?.outcome === 'stopped' && frame?.done && (
        <p role="status" className="border-l-4 border-slate pl-2.5 text-[13px]">
          The run is over: {status.reason}
        </p>
      )}
      {frame && running && (
        <LastStepLine
          model={compiled.model}
          frame={frame}
          samples={!learnMethod(running.method).fromModel}
          hasRate={learnMethod(running.method).settings.includes('learningRate')}
          level={
            learnMethod(running.method).settings.includes('exploration')
              ? EXPLORATIONS[running.exploration.way].level.toLowerCase()
              : null
          }
        />
      )}
      {frame && running && learnMethod(running.method).tableHolds === 'preferences' && <Collapse />}
      <StudyTabs
        label="About the run"
        parts={[
          { title: 'Working', content: <LearnWorking /> },
          { title: 'Episode', content: <EpisodePanel /> },
          { title: 'Pseudo-code', content: <LearnPseudoCode /> },
          { title: 'Table', content: <RunTable /> },
          { title: 'Findings', busy: diagnosing, content: <DiagnosisPanel /> },
          { title: 'Seeds', busy: manyRunning, content: <SeedsPanel /> },
          ...(bandit ? [{ title: 'Agents', busy: agentsRunning, content: <AgentsPanel /> }] : []),
          { title: 'Trials', busy: watching, content: <TrialsPanel /> },
          { title: 'Keep', busy: onCourse, content: <KeepPanel /> },
        ]}
      />
    </div>
  )
}

/** Says so where the policy hardly tries anything any more, and is not good. */
function Collapse() {
  const { learn } = useParts()
  const model = useModel((state) => state.compiled?.model)
  const { frame, optimum } = useStore(learn.store)
  if (useCovered() || !model || !frame || frame.policy.length !== model.rows) return null
  const { collapsed, of } = collapsedStates(model, frame.policy, frame.rowVisits)
  const best = optimum?.optimum
  const good =
    best === undefined ||
    (frame.exactValue !== null && frame.exactValue > best - 0.01 * Math.max(1, Math.abs(best)))
  if (!collapsed.length || good) return null
  return (
    <p role="status" className="border-l-4 border-alert pl-2.5 text-[13px]">
      The policy has collapsed in {formatCount(collapsed.length)} of {formatCount(of)} visited states, such as{' '}
      {model.labels[collapsed[0]]}: one action has a probability above {SETTLED * 100} %, so that the others
      are hardly tried any more, and yet the policy is worse than the optimum. A smaller learning rate, a
      higher temperature or an entropy bonus keep it trying.
    </p>
  )
}

/**
 * What the method does and all that can be set, folded to one line once the run has begun: then there is more to look at
 * than settings.
 */
function LearnSettings() {
  const { learn } = useParts()
  const choice = useStore(learn.store, (state) => state.choice)
  const begun = useStore(learn.store, (state) => (state.frame?.reached ?? 0) > 0)
  const open = useStudy((state) => state.folds.Settings) ?? !begun
  const fold = useStudy((state) => state.fold)
  const method = learnMethod(choice.method)
  return (
    <div className="space-y-2">
      <button
        type="button"
        aria-expanded={open}
        className="flex w-full items-baseline gap-1.5 border-b border-rule pb-1 text-left"
        onClick={() => fold('Settings', !open)}
      >
        <span aria-hidden className="text-[11px]">
          {open ? '▼' : '▶'}
        </span>
        <span className="font-semibold">Settings</span>
        <span className="min-w-0 flex-1 truncate text-[13px] text-ink-soft">
          {settingsInBrief(choice)}
          {choice.run > 0 && ` · run ${choice.run}`}
        </span>
      </button>
      {open && (
        <>
          <p className="text-[13px] leading-[18px] text-ink-soft" title={method.source}>
            {method.idea}
          </p>
          <LearnFields />
          <MoreSettings />
        </>
      )}
    </div>
  )
}

/** The last update of the state that is selected, or of the one last left. */
function LearnWorking() {
  const { learn } = useParts()
  const cursor = useStudy((state) => state.cursor)
  const layers = useStudy((state) => state.layers)
  const compiled = useModel((state) => state.compiled)
  const frame = useStore(learn.store, (state) => state.frame)
  const { overlay } = useOverlay()
  if (!compiled || !frame) return null
  const { model } = compiled
  const state = stateAt(compiled, cursor) ?? (frame.last.state >= 0 ? frame.last.state : null)
  if (state === null)
    return <p className="text-ink-soft">Take a step to see what is learned from it, or select a state.</p>
  const { working, choice } = frame
  if (working || choice) {
    const scale =
      layers.has('values') && !layers.has('distance') ? pictureScale({ overlay, layers }) : undefined
    const tint = scale && ((value: number) => colourAsProperty(valueColour(scale, value)))
    return (
      <>
        {working && <WorkingView working={working} tint={tint} />}
        {choice && <WorkingView label="The next choice" working={choice} tint={tint} />}
      </>
    )
  }
  return (
    <p className="text-ink-soft">
      {model.ending[state]
        ? `Episodes end in ${model.labels[state]}: its value is 0 by definition, and never updated.`
        : `${model.labels[state]} has not been updated yet.`}
    </p>
  )
}

function LearnPseudoCode() {
  const { learn } = useParts()
  const { choice, running, frame } = useStore(learn.store)
  const { pseudo, source } = learnMethod(running?.method ?? choice.method)
  return (
    <>
      <PseudoCode lines={pseudo} place={frame?.place ?? 'start'} />
      <p className="text-[13px] text-ink-soft">{source}</p>
    </>
  )
}
