'use client'

import { findAndReplace } from 'mdast-util-find-and-replace'
import { createContext, useContext } from 'react'
import Markdown, { type Components } from 'react-markdown'
import remarkGfm from 'remark-gfm'
import remarkMath from 'remark-math'
import { NAMED_PLACE, namedText, type ViewFacts } from '../../core/lesson/named-numbers'
import { KatexFormula } from '../working/Formula'

/** What the numbers in a text are taken from; null while there is nothing. */
const FactsContext = createContext<ViewFacts | null>(null)

type Root = Parameters<typeof findAndReplace>[0]

/** Names between double brackets become places of their own. */
function remarkNamed() {
  return (tree: Root) =>
    findAndReplace(tree, [
      NAMED_PLACE,
      (_whole: string, name: string) => ({
        // Set as an element of its own.
        type: 'emphasis' as const,
        children: [],
        data: { hName: 'data', hProperties: { value: name } },
      }),
    ])
}

const COMPONENTS: Components = {
  data: ({ value }) => <NamedNumber name={String(value)} />,
  code({ className = '', children }) {
    const text = String(children)
    if (className.includes('language-math'))
      return <FilledFormula latex={text} display={className.includes('math-display')} />
    // A block of lines ends with the end of its last one.
    const block = text.endsWith('\n') ? 'block whitespace-pre-wrap' : ''
    return <code className={`rounded-sm bg-rule/50 px-1 ${block}`}>{children}</code>
  },
  // Formulas that stand alone are in one too.
  pre: ({ children }) => <>{children}</>,
  // A lesson has no network: what is elsewhere is named, not opened.
  img: ({ alt }) => <>{alt}</>,
  a: ({ children, href }) => (
    <a href={href} rel="noreferrer" className="underline underline-offset-4">
      {children}
    </a>
  ),
}

/** The text of a view: Markdown, formulas, and numbers by name. */
export function LessonText({ text, facts }: { text: string; facts: ViewFacts | null }) {
  return (
    <FactsContext value={facts}>
      <div className="lesson-text">
        <Markdown remarkPlugins={[remarkGfm, remarkMath, remarkNamed]} components={COMPONENTS}>
          {text}
        </Markdown>
      </div>
    </FactsContext>
  )
}

function NamedNumber({ name }: { name: string }) {
  const { text, problem } = namedText(name, useContext(FactsContext))
  return problem ? (
    <span className="rounded-sm bg-alert/15 px-1 text-alert" title={problem} data-name={name}>
      {text}?<span className="sr-only"> {problem}</span>
    </span>
  ) : (
    <b className="font-semibold tabular-nums" data-name={name}>
      {text}
    </b>
  )
}

/** A formula, with the numbers by name that stand in it. */
function FilledFormula({ latex, display }: { latex: string; display: boolean }) {
  const facts = useContext(FactsContext)
  const filled = latex.replace(NAMED_PLACE, (_, name: string) => {
    const { text } = namedText(name, facts)
    return /^[\d.,−\s…]+$/.test(text) ? text.replace(/,/g, '{,}') : `\\text{${text}}`
  })
  return <KatexFormula latex={filled} display={display} />
}
