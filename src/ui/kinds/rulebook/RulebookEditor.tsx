'use client'

import {
  autocompletion,
  closeBrackets,
  closeBracketsKeymap,
  completionKeymap,
} from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands'
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint'
import { highlightSelectionMatches, searchKeymap } from '@codemirror/search'
import { EditorState, Transaction } from '@codemirror/state'
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  hoverTooltip,
  keymap,
  lineNumbers,
} from '@codemirror/view'
import { useEffect, useRef } from 'react'
import type { Problem } from '../../../core/problem'
import { TEXT_LIMIT } from '../../../core/kinds/rulebook/document'
import { highlighting } from './highlight'
import { explainWord, suggest } from './suggest'

export interface Remark extends Problem {
  readonly severity: 'error' | 'warning'
}

/** A place of the text to go to. */
export interface Place {
  readonly from: number
  readonly to: number
  /** Marked as a whole, with the keyboard left where it is; otherwise the cursor is put there. */
  readonly quiet: boolean
}

interface Props {
  readonly text: string
  readonly remarks: readonly Remark[]
  /** A place to go to: a new object goes there again. */
  readonly goTo: Place | null
  onChange(text: string): void
  /** The text would become too long; it stays as it is. */
  onTooLong(): void
}

/** The rulebook as text: coloured, completed, explained under the pointer, its faults marked in place. */
export default function RulebookEditor({ text, remarks, goTo, onChange, onTooLong }: Props) {
  const holder = useRef<HTMLDivElement>(null)
  const view = useRef<EditorView | null>(null)
  const handlers = useRef({ onChange, onTooLong })
  const first = useRef(text)
  useEffect(() => {
    handlers.current = { onChange, onTooLong }
  })

  useEffect(() => {
    const editor = new EditorView({
      parent: holder.current!,
      state: EditorState.create({ doc: first.current, extensions: extensions(handlers) }),
    })
    view.current = editor
    return () => {
      editor.destroy()
      view.current = null
    }
  }, [])

  // The text changes from outside by undo, by the switch for impossible actions, by loading.
  useEffect(() => {
    const editor = view.current
    if (!editor || editor.state.doc.toString() === text) return
    const at = Math.min(editor.state.selection.main.head, text.length)
    editor.dispatch({
      changes: { from: 0, to: editor.state.doc.length, insert: text },
      selection: { anchor: at },
      annotations: Transaction.userEvent.of('set'),
    })
  }, [text])

  useEffect(() => {
    const editor = view.current
    if (!editor) return
    const { length } = editor.state.doc
    const diagnostics = remarks.flatMap(({ span, cause, remedy, severity }): Diagnostic[] => {
      if (!span) return []
      const from = Math.min(span.from, length)
      const to = Math.min(Math.max(span.to, from), length)
      return [{ from, to, severity, message: `${cause}\n${remedy}` }]
    })
    editor.dispatch(setDiagnostics(editor.state, diagnostics))
  }, [remarks, text])

  useEffect(() => {
    const editor = view.current
    if (!editor || !goTo) return
    const { length } = editor.state.doc
    const anchor = Math.min(goTo.from, length)
    const head = goTo.quiet ? Math.min(goTo.to, length) : anchor
    editor.dispatch({
      selection: { anchor, head },
      effects: EditorView.scrollIntoView(anchor, { y: 'center' }),
    })
    if (!goTo.quiet) editor.focus()
  }, [goTo])

  return (
    <div
      ref={holder}
      className="rulebook-editor h-full min-h-0 overflow-hidden"
      data-testid="rulebook-text"
    />
  )
}

function extensions(handlers: { current: Pick<Props, 'onChange' | 'onTooLong'> }) {
  return [
    lineNumbers(),
    lintGutter(),
    history(),
    drawSelection(),
    highlightActiveLine(),
    highlightSelectionMatches(),
    closeBrackets(),
    // Above the line: below it stand the faults that it may mend.
    autocompletion({ override: [suggest], icons: false, aboveCursor: true }),
    highlighting,
    hovers,
    EditorView.lineWrapping,
    EditorView.contentAttributes.of({ 'aria-label': 'Rulebook', tabindex: '0' }),
    EditorState.tabSize.of(2),
    // Refused before it is in, so that nothing that is there is lost.
    EditorState.changeFilter.of((transaction) => {
      if (!transaction.docChanged || transaction.newDoc.length <= TEXT_LIMIT) return true
      handlers.current.onTooLong()
      return false
    }),
    EditorView.updateListener.of((update) => {
      const outside = update.transactions.some((each) => each.isUserEvent('set'))
      if (update.docChanged && !outside) handlers.current.onChange(update.state.doc.toString())
    }),
    keymap.of([
      ...closeBracketsKeymap,
      ...completionKeymap,
      ...searchKeymap,
      ...historyKeymap,
      ...defaultKeymap,
      indentWithTab,
    ]),
  ]
}

const hovers = hoverTooltip((view, at) => {
  const line = view.state.doc.lineAt(at)
  const before = /[\p{L}\p{N}_]*$/u.exec(line.text.slice(0, at - line.from))![0]
  const after = /^[\p{L}\p{N}_]*/u.exec(line.text.slice(at - line.from))![0]
  const from = at - before.length
  const said = explainWord(
    view.state.doc.toString(),
    before + after,
    line.text.slice(0, from - line.from).trim() === '',
  )
  if (!said) return null
  return {
    pos: from,
    end: at + after.length,
    above: true,
    create: () => {
      const dom = document.createElement('div')
      dom.className = 'rb-hover'
      const form = dom.appendChild(document.createElement('code'))
      form.textContent = said.form
      const says = dom.appendChild(document.createElement('p'))
      says.textContent = said.says
      return { dom }
    },
  }
})
