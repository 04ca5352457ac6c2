import type { EnvironmentDocument } from '../kinds/kinds'
import type { Readers } from '../kinds/reader'
import { READERS as OF_KINDS } from '../kinds/readers'
import { refuse } from '../problem'
import { parseEnvironment } from './document'
import { withVisibleSigns } from './visible'

const READERS: readonly Readers<EnvironmentDocument>[] = Object.values(OF_KINDS)

/** The endings of files that hold one form only, whatever they begin with. */
const ENDINGS: Readonly<Record<string, (name: string, text: string) => EnvironmentDocument>> = {
  '.json': (_, text) => parseEnvironment(text),
  ...Object.assign({}, ...READERS.map(({ endings }) => endings)),
}

const GUESSES = READERS.flatMap(({ guess }) => guess ?? []).sort((one, other) => one.order - other.order)

/**
 * Reads what a person hands in: a document (JSON), a rulebook, the map of a grid or a transition list (CSV); by the
 * ending of the file, or by how it begins.
 * @param name  what to call the environment when the file does not say
 * @param ending  of the file, with its point; empty when it is not known
 */
export function readEnvironment(text: string, name: string, ending = ''): EnvironmentDocument {
  if (Object.hasOwn(ENDINGS, ending)) return withVisibleSigns(ENDINGS[ending](name, text))
  if (/^\uFEFF?\s*[{[]/.test(text)) return parseEnvironment(text)
  for (const { read } of GUESSES) {
    const document = read(name, text)
    if (document) return withVisibleSigns(document)
  }
  return refuse(
    'text',
    'Its format is not one that can be read.',
    'Choose a .json, .rules, .csv or .txt file.',
  )
}
