'use client'

import type { ReactNode } from 'react'
import { useStore } from 'zustand'
import { learnMethod, type LearnOption } from '../../../core/learn/methods/methods'
import { constant, type Schedule } from '../../../core/learn/schedule'
import { EXPLORATIONS, type ExplorationWay, type LearnSettings } from '../../../core/settings/settings'
import { NumberField } from '../../parts/NumberField'
import { Select } from '../../parts/Select'
import { SetApart } from '../../study/SetApart'
import { useModel, useParts } from '../../study/study-context'
import { policySources } from '../../../session/plan/policy-sources'

/** The numbers that are wanted most, and those that belong to the method. */
export function LearnFields() {
  const { learn } = useParts()
  const choice = useStore(learn.store, (state) => state.choice)
  const method = learnMethod(choice.method)
  const { level } = choice.exploration
  const { way } = choice.exploration
  const uses = (option: LearnOption) => method.settings.includes(option)
  const begin = (schedule: Schedule, from: number): Schedule => ({ ...schedule, from })
  return (
    <div className="grid grid-cols-3 gap-x-3 gap-y-2">
      {uses('learningRate') ? (
        <NumberField
          label={choice.learningRate.kind === 'constant' ? 'Learning rate' : 'Learning rate, at first'}
          value={choice.learningRate.from}
          min={0}
          max={method.tableHolds === 'preferences' ? 1000 : 1}
          aboveMin
          hint="How far each update goes towards its target."
          onChange={(from) => learn.choose({ learningRate: begin(choice.learningRate, from) })}
        />
      ) : (
        <NumberField
          label="Learning rate"
          value={1}
          min={0}
          max={1}
          disabled
          hint="This method takes the mean of all it remembers: there is no step to choose."
          onChange={() => {}}
        />
      )}
      <NumberField
        label={`${EXPLORATIONS[way].level}${level.kind === 'constant' ? '' : ', at first'}`}
        value={level.from}
        min={0}
        max={way === 'softmax' ? 1e9 : 1}
        aboveMin={way === 'softmax' || level.kind === 'exponential'}
        disabled={!uses('exploration')}
        hint={
          uses('exploration')
            ? EXPLORATIONS[way].hint
            : method.finds === 'worth'
              ? 'This method follows a given policy.'
              : 'This method explores by its own probabilities.'
        }
        onChange={(from) => learn.choose({ exploration: { way, level: begin(level, from) } })}
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
        max={10_000_000}
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
      {method.settings.map((option) => (
        <MethodField key={option} option={option} />
      ))}
      <SetApart
        name="Discount"
        of="discount"
        value={choice.discount}
        onTake={(discount) => learn.choose({ discount })}
      />
      <SetApart name="Cap" of="cap" value={choice.cap} onTake={(cap) => learn.choose({ cap })} />
    </div>
  )
}

/** Options that some methods have: where they mean something, and nothing for those that stand elsewhere. */
function MethodField({ option }: { option: LearnOption }): ReactNode {
  const { learn } = useParts()
  const choice = useStore(learn.store, (state) => state.choice)
  const compiled = useModel((state) => state.compiled)
  switch (option) {
    case 'lookahead':
      return (
        <NumberField
          label="n (rewards)"
          whole
          value={choice.lookahead}
          min={1}
          max={1000}
          hint="How many rewards are waited for before an update. With 1 it is SARSA."
          onChange={(lookahead) => learn.choose({ lookahead })}
        />
      )
    case 'lambda':
      return (
        <NumberField
          label="λ"
          value={choice.lambda}
          min={0}
          max={1}
          hint="How much of a trace is left after a step, besides the discount. 0: only the last step learns; 1: the whole episode."
          onChange={(lambda) => learn.choose({ lambda })}
        />
      )
    case 'traces':
      return (
        <Select
          label="Traces"
          value={choice.traces}
          options={{ replacing: 'replacing', accumulating: 'accumulating' }}
          hint="Whether a visit sets a trace to 1, or adds 1 to it."
          onChange={(traces) => learn.choose({ traces: traces as LearnSettings['traces'] })}
        />
      )
    case 'counted':
      return (
        <Select
          label="Counts"
          value={choice.counted}
          options={{ first: 'first visits', every: 'every visit' }}
          hint="Which visits of an episode are followed by a return that counts."
          onChange={(counted) => learn.choose({ counted: counted as LearnSettings['counted'] })}
        />
      )
    case 'planning':
      return (
        <NumberField
          label="Planned a step"
          whole
          value={choice.planning}
          min={0}
          max={1000}
          hint="Updates from memory after each step in the world."
          onChange={(planning) => learn.choose({ planning })}
        />
      )
    case 'threshold':
      return (
        <NumberField
          label="Threshold"
          value={choice.threshold}
          min={0}
          max={1e9}
          hint="A value that is this close to its backup is left as it is."
          onChange={(threshold) => learn.choose({ threshold })}
        />
      )
    case 'policy':
      return (
        compiled && (
          <Select
            label="Policy"
            value={choice.source}
            // What was learned here cannot be followed here: it would change while it is evaluated.
            options={policySources(compiled, null)}
            hint="The policy that is followed and evaluated."
            onChange={(source) => learn.choose({ source })}
          />
        )
      )
    default:
      return null
  }
}

/** A way of exploring, with a level that suits it. */
export function explorationOf(way: ExplorationWay): LearnSettings['exploration'] {
  return { way, level: constant(way === 'softmax' ? 1 : 0.1) }
}
