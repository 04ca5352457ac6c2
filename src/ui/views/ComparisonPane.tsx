'use client'

import { useStore } from 'zustand'
import { PICTURES, type Picture } from '../../core/compare/comparison'
import { formatCount } from '../../core/formats/number'
import type { Compiled } from '../../core/kinds/kinds'
import { missingRuns } from '../../session/compare/compare-runs'
import { Button } from '../parts/Button'
import { LineSelect } from '../parts/Select'
import { useParts, useStudy } from '../study/study-context'
import { CurveChoices, Curves } from './compare/Curves'
import { Spread } from './compare/Spread'
import { SweepPicture } from './compare/SweepPicture'

/** The contestants of Compare in one picture. */
export function ComparisonPane({ compiled }: { compiled: Compiled | null }) {
  const { compare, jobs, study } = useParts()
  const document = useStudy((state) => state.document)
  const state = useStore(compare.store)
  const atWork = useStore(jobs.store, ({ jobs: list }) =>
    list.some((job) => job.state === 'active' && job.environment.id === study.getState().id),
  )
  const { comparison, running, done, asked, left } = state
  const { view, contestants } = comparison
  const { picture } = view
  return (
    <>
      <div className="flex min-h-8 flex-wrap items-center gap-x-4 gap-y-1.5 text-[13px]">
        <LineSelect
          label="Picture"
          labelled
          value={picture}
          options={Object.entries(PICTURES)}
          onChange={(value) => compare.look({ picture: value as Picture })}
        />
        {picture === 'curves' && <CurveChoices compiled={compiled} />}
        {running && (
          <span role="status" className="text-ink-soft">
            {formatCount(done)} of {formatCount(asked)} runs
            {left !== null && left > 1500 && `, about ${formatCount(left / 1000)} s left`} …
          </span>
        )}
      </div>
      <div className="flex min-h-0 flex-1 flex-col">
        {contestants.length ? (
          picture === 'curves' ? (
            <Curves />
          ) : picture === 'sweep' ? (
            <SweepPicture />
          ) : (
            <Spread />
          )
        ) : (
          <p className="mt-16 text-center text-ink-soft">
            Which agent, which setting, which environment, and was it luck? Add contestants at the right.
          </p>
        )}
        {contestants.length > 0 && !running && !atWork && missingRuns(state, document) > 0 && (
          <p className="shrink-0 py-2 text-center text-[13px] text-ink-soft">
            {formatCount(missingRuns(state, document))} runs are still to be played.{' '}
            <Button look="ink" className="!px-2 !py-0.5" onClick={() => compare.start(document)}>
              Run them
            </Button>
          </p>
        )}
      </div>
    </>
  )
}
