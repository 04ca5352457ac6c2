'use client'

import { useState } from 'react'
import { useStore } from 'zustand'
import { curvesCsv, scoresCsv } from '../../../core/compare/runs-csv'
import { variedTitle } from '../../../core/compare/sweep'
import { ProblemError, type Problem } from '../../../core/problem'
import { copyComparisonLink } from '../../../session/compare/comparison-link'
import { Button } from '../../parts/Button'
import { downloadText } from '../../parts/download'
import { fileName } from '../../../core/formats/file-name'
import { FileButton } from '../../parts/FileButton'
import { Fold } from '../../study/Fold'
import { NameField } from '../../parts/NameField'
import { ProblemList } from '../../parts/ProblemList'
import { Section } from '../../parts/Section'
import { LineSelect } from '../../parts/Select'
import { useParts, useStudy } from '../../study/study-context'
import { drawnContestants, sweptContestants } from '../../views/comparison-lines'

const SAVING = { saved: 'saved', waiting: 'saving …', saving: 'saving …', failed: 'not saved' } as const

/** Which comparison is open, what it says to look at, and what can be done with the whole. */
export function ComparisonHead() {
  const { compare } = useParts()
  const { shelf } = compare
  const comparison = useStore(compare.store, (state) => state.comparison)
  const { list, id, saving, problem, deleted } = useStore(shelf.store)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [copied, setCopied] = useState(false)
  return (
    <Section title="Comparison">
      <div className="flex items-center gap-2 text-[13px]">
        <LineSelect
          label="Which comparison"
          className="w-full"
          value={id ?? ''}
          options={[
            ...(id ? [] : ([['', comparison.name]] as const)),
            ...list.map((each) => [each.id, each.id === id ? comparison.name : each.name] as const),
          ]}
          onChange={(value) => void shelf.show(value)}
        />
        <Button
          className="!px-1.5 !py-0.5 text-[13px]"
          title="An empty comparison"
          onClick={() => void shelf.create()}
        >
          New
        </Button>
        <span role="status" className={saving === 'failed' ? 'text-alert' : 'text-ink-soft'}>
          {SAVING[saving]}
        </span>
      </div>
      {comparison.note && <p className="text-[14px] leading-5">{comparison.note}</p>}
      {problem && (
        <p role="alert" className="text-[13px] text-alert">
          {problem}{' '}
          {saving === 'failed' && (
            <Button className="!px-1.5 !py-0.5 text-[13px]" onClick={() => void shelf.save()}>
              Save again
            </Button>
          )}
        </p>
      )}
      {deleted && (
        <p role="status" className="text-[13px] text-ink-soft">
          “{deleted.name}” was deleted.{' '}
          <Button className="!px-1.5 !py-0.5 text-[13px]" onClick={() => void shelf.restore()}>
            Bring it back
          </Button>
        </p>
      )}
      <Fold title="Name, note, files" small>
        <NameField
          name={comparison.name}
          limit={120}
          fits={(text) => text.length > 0}
          rule="It needs a name."
          onName={(name) => compare.set({ name })}
        />
        <label className="block text-[13px] text-ink-soft">
          What to look at
          <textarea
            className="w-full rounded-sm border border-rule-strong bg-sheet px-2 py-1 text-ink"
            rows={3}
            maxLength={2000}
            value={comparison.note}
            onChange={(event) => compare.set({ note: event.target.value })}
          />
        </label>
        <div className="flex flex-wrap gap-2">
          <Button
            className="!px-1.5 !py-0.5 text-[13px]"
            disabled={!id}
            why="nothing is in it yet"
            onClick={() => void copyComparisonLink(id!).then(() => setCopied(true))}
          >
            {copied ? 'Link copied' : 'Copy link'}
          </Button>
          <Files onProblems={setProblems} />
          <Button
            className="!px-1.5 !py-0.5 text-[13px]"
            title="It can be brought back"
            disabled={!id}
            why="nothing is in it yet"
            onClick={() => void shelf.remove()}
          >
            Delete
          </Button>
        </div>
        <ProblemList problems={problems} />
      </Fold>
    </Section>
  )
}

/** What can be taken away as a file, and brought in. */
function Files({ onProblems }: { onProblems(problems: readonly Problem[]): void }) {
  const { compare, study } = useParts()
  const document = useStudy((state) => state.document)
  const state = useStore(compare.store)
  const { comparison } = state
  const sweep = comparison.view.picture === 'sweep'
  const groups = () =>
    sweep
      ? sweptContestants(state, document).flatMap(({ name, cells }) =>
          cells.map(({ values, runs }) => ({ name, values, runs })),
        )
      : drawnContestants(state, document).map(({ name, runs }) => ({ name, runs }))
  const varied = sweep ? comparison.view.sweep.axes.map((axis) => variedTitle(axis.varied)) : []
  const read = async (file: File) => {
    onProblems([])
    try {
      const { parseComparison } = await import('../../../core/compare/read-comparison')
      const { environment: _, ...found } = parseComparison(await file.text(), document)
      await compare.shelf.create(found)
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      onProblems(error.problems)
    }
  }
  const file = (ending: string) => fileName(`${study.getState().document.name} ${comparison.name}`, ending)
  return (
    <>
      <Button
        className="!px-1.5 !py-0.5 text-[13px]"
        title="The comparison with its environment: here and on the command line it is the same again"
        onClick={() =>
          downloadText(
            file('-comparison.json'),
            JSON.stringify({ ...comparison, environment: document }),
            'application/json',
          )
        }
      >
        Export (JSON)
      </Button>
      <FileButton
        className="!px-1.5 !py-0.5 text-[13px]"
        label="File of a comparison"
        accept=".json,application/json"
        onFile={(file) => void read(file)}
      >
        Import …
      </FileButton>
      <Button
        className="!px-1.5 !py-0.5 text-[13px]"
        title="A line a run: what it was judged by"
        onClick={() => downloadText(file('-runs.csv'), scoresCsv(groups(), varied), 'text/csv')}
      >
        Runs (CSV)
      </Button>
      <Button
        className="!px-1.5 !py-0.5 text-[13px]"
        title="A line a point of each run"
        onClick={() => downloadText(file('-curves.csv'), curvesCsv(groups()), 'text/csv')}
      >
        Curves (CSV)
      </Button>
    </>
  )
}
