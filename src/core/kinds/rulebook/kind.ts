import { rulebookOutline } from './outline'
import type { Knob } from '../../environment/head-knobs'
import { ownLosses, headLosses } from '../../formats/losses'
import type { StateSpace } from '../../model/space'
import { ProblemError } from '../../problem'
import type { CompiledBase, DocumentOf, EnvironmentKind } from '../kind'
import type { RulebookDocument } from './document'
import { withKnobs } from './edit'
import type { RulebookFacts } from './facts'
import type { Knob as RuleKnob } from './program'
import { readRules } from './read-rules'
import { withPolicy } from './with-policy'

export type RulebookEnvironment = DocumentOf<'rulebook', RulebookDocument>

export interface CompiledRules extends CompiledBase {
  readonly kind: 'rulebook'
  readonly space: StateSpace
  readonly facts: RulebookFacts
}

export const rulebookKind = {
  ...rulebookOutline,
  headKnobs: false,
  check: ({ rulebook }) => void readRules(rulebook),
  checkShape: () => {},
  sameModel: ({ rulebook: one }, { rulebook: other }) => one.text === other.text && one.knobs === other.knobs,
  isCovered: () => false,
  withPolicy: (document, title, text) => ({
    ...document,
    rulebook: withPolicy(document.rulebook, title, text),
  }),
  numbers: () => [],
  knobs: (document, compiled) =>
    (compiled?.facts.knobs ?? knobsOfText(document.rulebook)).map((knob) => panelKnob(document, knob)),
  fields: {
    text: { word: 'Text of the rulebook' },
    knobs: { word: 'Knob' },
    view: { word: 'View' },
  },
  exports: {
    rules: {
      title: 'Rulebook (text)',
      ending: '.rules',
      type: 'text/plain',
      needsModel: false,
      write: ({ rulebook }: RulebookEnvironment) => withKnobs(rulebook.text, rulebook.knobs),
      losses: (document: RulebookEnvironment) => [...headLosses(document), ...ownLosses(document)],
    },
  },
  lateExports: {
    python: {
      title: 'Python module',
      ending: '.py',
      type: 'text/x-python',
      needsModel: true,
      load: async () => {
        const { writePython } = await import('./python/write-python')
        return ({ name, rulebook }: RulebookEnvironment, compiled: CompiledRules) =>
          writePython(name, rulebook, compiled)
      },
    },
  },
  listLosses: ({ facts }) => (facts.checks.length ? ['checks'] : []),
  text: ({ rulebook }) => rulebook.text.trimEnd(),
  aloud: async ({ rulebook }) => {
    const { sentencesOf } = await import('./reading/sentences')
    return sentencesOf(rulebook.text).map(({ text }) => text)
  },
  scoresPolicies: true,
} as const satisfies EnvironmentKind<'rulebook', RulebookDocument, CompiledRules>

/** The knobs of a text without its model; none while the text is faulty. */
function knobsOfText(rulebook: RulebookDocument): readonly RuleKnob[] {
  try {
    return readRules({ ...rulebook, knobs: {} }).program.knobs
  } catch (error) {
    if (error instanceof ProblemError) return []
    throw error
  }
}

function panelKnob(document: RulebookEnvironment, knob: RuleKnob): Knob<RulebookEnvironment> {
  const { rulebook } = document
  return {
    ...knob,
    title: knob.name,
    value: Object.hasOwn(rulebook.knobs, knob.name) ? rulebook.knobs[knob.name] : knob.standard,
    turned(value) {
      const others = Object.fromEntries(Object.entries(rulebook.knobs).filter(([name]) => name !== knob.name))
      const knobs = value === null ? others : { ...others, [knob.name]: value }
      return { ...document, rulebook: { ...rulebook, knobs } }
    },
  }
}
