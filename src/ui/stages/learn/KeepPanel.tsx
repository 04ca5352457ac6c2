'use client'

import { useEffect, useState } from 'react'
import { useStore } from 'zustand'
import {
  carriedInWords,
  carryCheckpoint,
  makeCheckpoint,
  type Checkpoint,
} from '../../../core/learn/checkpoint'
import { formatCount } from '../../../core/formats/number'
import { learnMethod, LEARN_METHODS } from '../../../core/learn/methods/methods'
import { World } from '../../../core/learn/world'
import type { CheckpointSummary } from '../../../server/contract/checkpoints'
import { Button } from '../../parts/Button'
import { downloadText } from '../../parts/download'
import { fileName } from '../../../core/formats/file-name'
import { FileButton } from '../../parts/FileButton'
import { Icon } from '../../parts/Icon'
import { ProblemList } from '../../parts/ProblemList'
import { sinceText } from '../../shelf/since'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { CourseFields } from './CourseFields'

/** Learned tables: kept, taken up again here or on another environment, taken away and brought in as files. */
export function KeepPanel() {
  const { study, learn, kept } = useParts()
  const compiled = useModel((state) => state.compiled)
  const running = useStore(learn.store, (state) => state.running)
  const steps = useStore(learn.store, (state) => state.frame?.steps ?? 0)
  const { list, problems, deleted } = useStore(kept.store)
  const [name, setName] = useState('')
  useEffect(() => {
    void kept.refresh()
  }, [kept])
  if (!compiled || !running) return null
  const { model } = compiled
  const method = learnMethod(running.method)
  const usual = `${method.title}, ${formatCount(steps)} steps`
  const checkpointNow = async (): Promise<Checkpoint> => {
    const { table, steps, episodes } = await learn.take()
    return makeCheckpoint(new World(model), table, {
      name: name.trim() || usual,
      environment: study.getState().document.name,
      method: running.method,
      holds: method.tableHolds,
      settings: running,
      steps,
      episodes,
    })
  }
  /** Starts a run over with a table, by the method it fits. */
  const goOn = (checkpoint: Checkpoint) =>
    kept.attempt(() => {
      const { choice } = learn.store.getState()
      const fits = learnMethod(choice.method).tableHolds === checkpoint.holds
      const carried = carryCheckpoint(
        checkpoint,
        new World(model),
        fits ? learnMethod(choice.method).tableHolds : checkpoint.holds,
      )
      if (!fits) learn.choose({ method: checkpoint.method })
      learn.restartWith({ title: `“${checkpoint.name}”: ${carriedInWords(carried)}`, table: carried.table })
    })
  const read = async (chosen: File) => {
    const bytes = new Uint8Array(await chosen.arrayBuffer())
    const { readCheckpoint } = await import('../../../core/learn/read-checkpoint')
    const checkpoint = await kept.attempt(() =>
      readCheckpoint(bytes, chosen.name, new World(model), {
        method: running.method,
        holds: method.tableHolds,
        environment: '',
      }),
    )
    if (checkpoint) await goOn(checkpoint)
  }
  return (
    <div className="space-y-2">
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          void checkpointNow()
            .then(kept.keep)
            .then(() => setName(''))
        }}
      >
        <label className="min-w-0 flex-1 text-[13px] text-ink-soft">
          Keep the table as it is now
          <input
            className="w-full rounded-sm border border-rule-strong bg-sheet px-2 py-1 leading-5 text-ink"
            value={name}
            maxLength={120}
            placeholder={usual}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Button type="submit" look="ink" disabled={steps === 0}>
          Keep
        </Button>
      </form>
      <div className="flex gap-2">
        <Button
          className="!px-1.5 !py-0.5 text-[13px]"
          onClick={() =>
            void checkpointNow().then((checkpoint) =>
              downloadText(
                fileName(study.getState().document.name, '-table.json'),
                JSON.stringify(checkpoint),
                'application/json',
              ),
            )
          }
          title="CSV and .npy are in the export menu above"
        >
          Export (JSON)
        </Button>
        <FileButton
          className="!px-1.5 !py-0.5 text-[13px]"
          label="Table from a file"
          accept=".json,.csv,.npy"
          onFile={(chosen) => void read(chosen)}
        >
          Continue from a file …
        </FileButton>
      </div>
      {problems.length > 0 && <ProblemList problems={problems} />}
      {deleted && (
        <p role="status" className="text-[13px]">
          “{deleted.name}” was deleted.{' '}
          <Button className="!px-1.5 !py-0.5 text-[13px]" onClick={() => void kept.undo()}>
            Undo
          </Button>
        </p>
      )}
      {list === null ? (
        <p className="text-[13px] text-ink-soft">Loading the kept tables …</p>
      ) : list.length === 0 ? (
        <p className="text-[13px] text-ink-soft">
          Nothing has been kept yet. A kept table can be continued from, on this environment or another one.
        </p>
      ) : (
        <ul className="divide-y divide-rule border-y border-rule" aria-label="Kept tables">
          {list.map((each) => (
            <KeptItem key={each.id} item={each} goOn={goOn} />
          ))}
        </ul>
      )}
      <CourseFields />
    </div>
  )
}

function KeptItem({
  item,
  goOn,
}: {
  item: CheckpointSummary
  goOn(checkpoint: Checkpoint): Promise<unknown>
}) {
  const { kept } = useParts()
  const here = useStudy((state) => state.id) === item.environment.id
  return (
    <li className="flex items-center gap-2 py-1 text-[13px] leading-[18px]">
      <div className="min-w-0 flex-1">
        <div className="truncate font-semibold" title={item.name}>
          {item.name}
        </div>
        <div className="truncate text-ink-soft">
          {here ? '' : `${item.environment.name} · `}
          {LEARN_METHODS[item.method].title} · {formatCount(item.episodes)} episodes ·{' '}
          {sinceText(new Date(item.createdAt), new Date())}
        </div>
      </div>
      <Button
        className="!px-1.5 !py-0.5 text-[13px]"
        title="Start over with this table, matched by the names of states and actions"
        onClick={() => void kept.read(item.id).then((checkpoint) => checkpoint && goOn(checkpoint))}
      >
        Continue from it
      </Button>
      <Button
        look="quiet"
        aria-label={`Delete ${item.name}`}
        title="Delete"
        onClick={() => void kept.remove(item)}
      >
        <Icon name="cross" className="size-4" />
      </Button>
    </li>
  )
}
