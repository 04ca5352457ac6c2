'use client'

import { useStore } from 'zustand'
import { askOf } from '../../../core/compare/comparison'
import { missingRuns } from '../../../session/compare/compare-session'
import { Button } from '../../parts/Button'
import { NumberField } from '../../parts/NumberField'
import { RunProgress } from '../../parts/RunProgress'
import { Section } from '../../parts/Section'
import { useParts, useStudy } from '../../study/study-context'
import { SweepFields } from './SweepFields'

/** How many runs, and what goes on with them. */
export function RunFields() {
  const { compare } = useParts()
  const document = useStudy((state) => state.document)
  const state = useStore(compare.store)
  const { comparison, running, done, asked, left, failure } = state
  const { contestants, runs, trials, view } = comparison
  const missing = missingRuns(state, document)
  return (
    <Section title="Runs">
      <div className="flex items-end gap-2">
        <div className="w-24">
          <NumberField
            label="Runs each"
            whole
            value={runs}
            min={1}
            max={10_000}
            hint="Runs 0, 1, 2 … of the seed: all contestants meet the same random numbers."
            onChange={(value) => compare.set({ runs: value })}
          />
        </div>
        {askOf(comparison).trials > 0 && (
          <div className="w-36">
            <NumberField
              label="Episodes after each"
              whole
              value={trials}
              min={1}
              max={100_000}
              hint="Without learning and without exploring, after every run."
              onChange={(value) => compare.set({ trials: value })}
            />
          </div>
        )}
        {running ? (
          <Button onClick={compare.stop}>Stop</Button>
        ) : (
          <Button
            look={missing ? 'ink' : 'plain'}
            disabled={!missing}
            why={contestants.length ? 'all of these runs are done' : 'add a contestant first'}
            onClick={() => compare.start(document)}
          >
            Run
          </Button>
        )}
      </div>
      {view.picture === 'sweep' && <SweepFields />}
      {running && <RunProgress done={done} asked={asked} left={left} />}
      {failure && (
        <p role="alert" className="text-alert">
          {failure} Run them again.
        </p>
      )}
    </Section>
  )
}
