import type { Readers } from '../reader'
import { rulebookEnvironment } from './blank'
import type { RulebookEnvironment } from './kind'
import { RULE_WORDS } from './parser'

/** How a rulebook begins: with a comment, or with the word of a rule and a name. */
const BEGINNING = new RegExp(`^\\uFEFF?\\s*(#|(${RULE_WORDS.join('|')})[ \\t]+["\\p{L}_])`, 'u')

export const rulebookReads: Readers<RulebookEnvironment> = {
  endings: { '.rules': rulebookEnvironment },
  guess: {
    order: 1,
    read: (name, text) => (BEGINNING.test(text) ? rulebookEnvironment(name, text) : undefined),
  },
}
