'use client'

import { useStore } from 'zustand'
import { LEARN_METHOD_IDS, LEARN_METHODS, type LearnMethodId } from '../../../core/learn/methods'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { NumberField } from '../../parts/NumberField'
import { ProblemList } from '../../parts/ProblemList'
import { stateAt } from '../../study/selection'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { WorkingView } from '../../working/WorkingView'
import { LastStepLine } from './LastStepLine'

/** The controls of Learn, the last step, and the working of the selected state. */
export function LearnPanel() {
  const { learn } = useParts()
  const cursor = useStudy((state) => state.cursor)
  const compiled = useModel((state) => state.compiled)
  const problems = useModel((state) => state.problems)
  const { choice, running, frame, failure } = useStore(learn.store)
  if (!compiled) return <ProblemList problems={problems} />
  const method = LEARN_METHODS[choice.method]
  const pending = running !== null && choice !== running
  const state = stateAt(compiled, cursor)
  return (
    <div className="space-y-3">
      <section className="space-y-2">
        <div className="flex items-end gap-3">
          <label className="flex flex-1 flex-col">
            <span className="text-[13px] text-ink-soft">Method</span>
            <select
              className="rounded-sm border border-rule-strong bg-sheet px-2 py-1 font-semibold"
              value={choice.method}
              onChange={(event) => learn.choose({ method: event.target.value as LearnMethodId })}
            >
              {LEARN_METHOD_IDS.map((id) => (
                <option key={id} value={id}>
                  {LEARN_METHODS[id].title}
                </option>
              ))}
            </select>
          </label>
          <Button
            look={pending ? 'ink' : 'plain'}
            onClick={learn.restart}
            title="Forget what was learned and start over"
          >
            <Icon name="restart" className="size-4" /> Start over
          </Button>
        </div>
        <p className="text-[13px] leading-5 text-ink-soft">{method.idea}</p>
        <div className="grid grid-cols-3 gap-x-3 gap-y-2">
          <NumberField
            label="Learning rate"
            value={choice.learningRate}
            min={0}
            max={method.tableHolds === 'action values' ? 1 : 1000}
            aboveMin
            hint="How far each update goes towards its target."
            onChange={(learningRate) => learn.choose({ learningRate })}
          />
          <NumberField
            label="Exploration"
            value={choice.exploration}
            min={0}
            max={1}
            disabled={!method.explores}
            hint={
              method.explores
                ? 'The chance of a random action at every step.'
                : 'This method explores by its own probabilities.'
            }
            onChange={(exploration) => learn.choose({ exploration })}
          />
          <NumberField
            label="Discount"
            value={choice.discount}
            min={0}
            max={1}
            hint="What a reward one step later is worth now."
            onChange={(discount) => learn.choose({ discount })}
          />
          <NumberField
            label="Episodes"
            whole
            value={choice.episodes}
            min={1}
            max={1_000_000}
            hint="The run is over after so many episodes."
            onChange={(episodes) => learn.choose({ episodes })}
          />
          <NumberField
            label="Cap (steps)"
            whole
            value={choice.cap}
            min={1}
            max={1_000_000}
            hint="Steps after which an episode is cut off. Being cut off is not the same as ending."
            onChange={(cap) => learn.choose({ cap })}
          />
          <NumberField
            label="Seed"
            whole
            value={choice.seed}
            min={0}
            max={Number.MAX_SAFE_INTEGER}
            hint="The same seed gives the same run, here and on the command line."
            onChange={(seed) => learn.choose({ seed })}
          />
        </div>
        {pending && (
          <p role="status" className="text-[13px] text-brass">
            The run on the board still has the settings it was started with. Start over to use these.
          </p>
        )}
      </section>
      {failure && (
        <p role="alert" className="text-alert">
          {failure}
        </p>
      )}
      {frame && <LastStepLine model={compiled.model} frame={frame} />}
      {state === null ? (
        <p className="text-ink-soft">Select a state to see the working of its last update.</p>
      ) : frame?.working ? (
        <WorkingView working={frame.working} />
      ) : (
        <p className="text-ink-soft">
          {compiled.model.ending[state]
            ? `Episodes end in ${compiled.model.labels[state]}: its value is 0 by definition, and never updated.`
            : `${compiled.model.labels[state]} has not been updated yet.`}
        </p>
      )}
    </div>
  )
}
