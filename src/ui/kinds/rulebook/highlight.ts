import { Decoration, EditorView, type DecorationSet } from '@codemirror/view'
import { StateField, type Text } from '@codemirror/state'
import { lex } from '../../../core/kinds/rulebook/lexer'
import { CLAUSE_WORDS } from '../../../core/kinds/rulebook/clause-words'
import { RULES } from '../../../core/kinds/rulebook/vocabulary'

const MARKS = {
  rule: Decoration.mark({ class: 'rb-rule' }),
  clause: Decoration.mark({ class: 'rb-clause' }),
  call: Decoration.mark({ class: 'rb-call' }),
  number: Decoration.mark({ class: 'rb-number' }),
  text: Decoration.mark({ class: 'rb-text' }),
  comment: Decoration.mark({ class: 'rb-comment' }),
} as const

/** Colours a rulebook by the language's own lexer. */
export const highlighting = StateField.define<DecorationSet>({
  create: ({ doc }) => marksOf(doc),
  update: (marks, transaction) => (transaction.docChanged ? marksOf(transaction.newDoc) : marks),
  provide: (field) => EditorView.decorations.from(field),
})

function marksOf(doc: Text): DecorationSet {
  const { statements, comments } = lex(doc.toString())
  const ranges = comments.map(({ from, to }) => MARKS.comment.range(from, to))
  for (const { tokens } of statements)
    tokens.forEach((token, i) => {
      const mark =
        token.kind === 'number' || token.kind === 'text'
          ? MARKS[token.kind]
          : token.kind !== 'name'
            ? undefined
            : i === 0 && Object.hasOwn(RULES, token.text)
              ? MARKS.rule
              : tokens[i + 1]?.text === '(' && !CLAUSE_WORDS.has(token.text)
                ? MARKS.call
                : CLAUSE_WORDS.has(token.text)
                  ? MARKS.clause
                  : undefined
      if (mark) ranges.push(mark.range(token.from, token.to))
    })
  return Decoration.set(ranges, true)
}
