import { fixedOption, type DocumentOption } from '../../environment/document-option'
import type { DocumentOf } from '../kind'
import type { RulebookDocument } from './document'
import { observes, treatmentText, withoutObserve, withTreatment } from './edit'

type Rulebook = DocumentOf<'rulebook', RulebookDocument>

const PENALISED = /^penalised by (\d+(?:\.\d+)?)$/

/** The options of a rulebook: they change its text. */
export function rulebookOptions(document: Rulebook): DocumentOption<Rulebook>[] {
  const { text } = document.rulebook
  const put = (changed: string): Rulebook => ({
    ...document,
    rulebook: { ...document.rulebook, text: changed },
  })
  const written = treatmentText(text)
  return [
    {
      name: 'impossible actions',
      value: written,
      values: ['forbidden', 'clamped', written.startsWith('penalised') ? written : 'penalised by 1'],
      more: 'the number may be another one',
      taken(value) {
        // A penalty may be written as more than a number; it stays as it is.
        if (value === written) return document
        if (value === 'forbidden' || value === 'clamped') return put(withTreatment(text, value))
        const by = PENALISED.exec(value)
        return by && put(withTreatment(text, 'penalised', Number(by[1])))
      },
    },
    ...(observes(text)
      ? [
          fixedOption(
            'the agent sees',
            false,
            { 'what is observed': false, 'the whole state': true },
            (all) => (all ? put(withoutObserve(text)) : document),
          ),
        ]
      : []),
  ]
}
