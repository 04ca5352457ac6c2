'use client'

import { useStore } from 'zustand'
import { askOf } from '../../../core/compare/asked-runs'
import { formatCount } from '../../../core/formats/number'
import { missingRuns } from '../../../session/compare/compare-runs'
import { Button } from '../../parts/Button'
import { NumberField } from '../../parts/NumberField'
import { RunProgress } from '../../parts/RunProgress'
import { Section } from '../../parts/Section'
import { ProgressBar } from '../../parts/ProgressBar'
import { useParts, useStudy } from '../../study/study-context'
import { SweepFields } from './SweepFields'

/** Episodes of all missing runs together from which the server is offered first. */
const LARGE = 5_000_000

/** How many runs, and what goes on with them. */
export function RunFields() {
  const { compare, jobs } = useParts()
  const document = useStudy((state) => state.document)
  const state = useStore(compare.store)
  const { comparison, running, done, asked, left, failure } = state
  const { contestants, runs, trials, view } = comparison
  const missing = missingRuns(state, document)
  // What takes long is better done by the server: then the page may be closed.
  const large = missing * Math.max(1, ...contestants.map(({ choice }) => choice.episodes)) > LARGE
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
            look={missing && !large ? 'ink' : 'plain'}
            disabled={!missing}
            why={contestants.length ? 'all of these runs are done' : 'add a contestant first'}
            onClick={() => compare.start(document)}
          >
            Run
          </Button>
        )}
        {!running && missing > 0 && (
          <Button
            look={large ? 'ink' : 'plain'}
            title="By the server, on all its cores: this page may be closed meanwhile"
            onClick={() => void compare.shelf.save().then(() => jobs.submit(comparison, document))}
          >
            {large ? 'Run on the server' : 'On the server'}
          </Button>
        )}
      </div>
      <JobProgress />
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

/** How far the jobs of this environment are. */
function JobProgress() {
  const { jobs, study } = useParts()
  const { jobs: list, notice, problem } = useStore(jobs.store)
  const { id } = study.getState()
  const open = list.filter(({ environment, state }) => environment.id === id && state === 'active')
  return (
    <>
      {open.map((job) => (
        <div key={job.id} role="status" className="text-[13px]">
          <ProgressBar value={job.done} max={job.chunks} label={`${job.name}: parts done`} />
          The server is at work on {job.name}: {formatCount(job.done)} of {formatCount(job.chunks)} parts
          {job.left !== null && job.left > 1.5 && `, about ${formatCount(Math.ceil(job.left))} s left`}.{' '}
          <Button
            className="!px-1.5 !py-0 text-[13px]"
            onClick={() => void jobs.change(job.id, { state: 'cancelled' })}
          >
            Cancel
          </Button>
        </div>
      ))}
      {open.length > 0 && notice && (
        <p role="alert" className="text-[13px] text-alert">
          {notice}
        </p>
      )}
      {problem && (
        <p role="alert" className="text-[13px] text-alert">
          {problem}
        </p>
      )}
    </>
  )
}
