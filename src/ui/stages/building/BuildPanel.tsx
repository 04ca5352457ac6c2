'use client'

import dynamic from 'next/dynamic'
import { formatCount } from '../../../core/formats/number'
import { Button } from '../../parts/Button'
import { NumberField } from '../../parts/NumberField'
import { ProblemList } from '../../parts/ProblemList'
import { Section } from '../../parts/Section'
import { Waiting } from '../../parts/Waiting'
import { useModel, useParts, useStudy } from '../../study/study-context'
import { kindView } from '../../kinds/kinds'
import { KnobMaker } from './KnobMaker'

/** Loaded where there is a base: few environments are variants. */
const VariantNote = dynamic(() => import('../../study/VariantNote').then((module) => module.VariantNote), {
  loading: Waiting,
})

/** The controls of Build: those of the kind, then what every environment has. */
export function BuildPanel() {
  const document = useStudy((state) => state.document)
  const isVariant = useStudy((state) => state.base !== null)
  const { Panel, panelHasSize } = kindView(document.kind)
  return (
    <div className="space-y-4">
      {isVariant && <VariantNote />}
      <Panel document={document} />
      <EpisodeFields />
      {!panelHasSize && (
        <>
          <SizeFacts />
          <KnobMaker document={document} />
        </>
      )}
      <NoteField />
    </div>
  )
}

function EpisodeFields() {
  const document = useStudy((state) => state.document)
  const edit = useStudy((state) => state.edit)
  return (
    <Section title="Episodes">
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Discount"
          value={document.discount}
          min={0}
          max={1}
          hint="What a reward one step later is worth now. Plan and Learn follow it, but where it was set apart there."
          onChange={(discount) => edit({ ...document, discount })}
        />
        <NumberField
          label="Step limit"
          unit="steps, 0 for none"
          whole
          value={document.cap}
          min={0}
          max={1_000_000}
          hint="Steps after which an episode is cut off. Being cut off is not the same as ending."
          onChange={(cap) => edit({ ...document, cap })}
        />
      </div>
    </Section>
  )
}

function SizeFacts() {
  const document = useStudy((state) => state.document)
  const compiled = useModel((state) => state.compiled)
  const problems = useModel((state) => state.problems)
  const progress = useModel((state) => state.progress)
  const stopped = useModel((state) => state.stopped)
  const { model: session } = useParts()
  if (progress)
    return (
      <div className="flex items-center gap-3 border-y border-rule py-2" role="status">
        <span className="text-[14px]">Compiling the model …</span>
        <Button onClick={session.stop}>Stop</Button>
      </div>
    )
  if (stopped)
    return (
      <p role="status" className="border-y border-rule py-2 text-[14px] text-brass">
        Compiling was stopped; any change starts it again.
      </p>
    )
  if (!compiled) return <ProblemList problems={problems} />
  const { model } = compiled
  const note = kindView(document.kind).sizeNote(document, compiled)
  const endings = model.ending.reduce((sum, ending) => sum + ending, 0)
  return (
    <p className="border-y border-rule py-2 text-[14px]" data-testid="size">
      <span className="font-semibold">{formatCount(model.states)} states</span>, {formatCount(endings)} of
      them endings · <span className="font-semibold">{model.actions.length} actions</span> · table of{' '}
      {formatCount(model.rows)} values
      {note && ` · ${note}`}
    </p>
  )
}

function NoteField() {
  const document = useStudy((state) => state.document)
  const edit = useStudy((state) => state.edit)
  return (
    <label className="block">
      <span className="text-[13px] text-ink-soft">What a class should look at</span>
      <textarea
        rows={6}
        maxLength={4000}
        className="w-full rounded-sm border border-rule-strong bg-paper px-2 py-1 leading-5"
        value={document.note}
        // One field, one step of undo: -1 is a stroke no brush has.
        onChange={(event) => edit({ ...document, note: event.target.value }, -1)}
      />
    </label>
  )
}
