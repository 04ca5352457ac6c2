'use client'

import 'katex/dist/katex.min.css'
import type katexType from 'katex'
import { useEffect, useMemo, useState } from 'react'

type Katex = typeof katexType

let loaded: Katex | undefined

/** The commands that give a term its role, and with it the colour of its place on the board. */
const MACROS = {
  '\\chance': '\\htmlClass{text-slate}{#1}',
  '\\paid': '\\htmlClass{text-brass}{#1}',
  '\\rate': '\\htmlClass{text-slate}{#1}',
  '\\was': '\\htmlClass{text-plum}{#1}',
  '\\ahead': '\\htmlClass{text-spruce}{#1}',
}

/** The typesetter, loaded with the first formula; undefined until then. */
function useKatex(): Katex | undefined {
  const [katex, setKatex] = useState(() => loaded)
  useEffect(() => {
    let gone = false
    if (!katex)
      void import('katex').then(({ default: found }) => {
        loaded = found
        if (!gone) setKatex(() => found)
      })
    return () => {
      gone = true
    }
  }, [katex])
  return katex
}

/** A formula set as in a book; `words` say the same to those who cannot see it. */
export function Formula({ latex, words }: { latex: string; words: string }) {
  const katex = useKatex()
  const html = useMemo(
    () =>
      katex?.renderToString(latex, {
        macros: { ...MACROS },
        output: 'html',
        displayMode: false,
        throwOnError: false,
        // Our own formulas only: classes are all that is let through.
        trust: ({ command }) => command === '\\htmlClass',
        strict: false,
      }),
    [katex, latex],
  )
  return (
    <p className="overflow-x-auto py-0.5 text-[12.5px]">
      {html && <span aria-hidden dangerouslySetInnerHTML={{ __html: html }} />}
      <span className={html ? 'sr-only' : 'text-ink-soft'}>{words}</span>
    </p>
  )
}

/** A formula that somebody wrote, for those who cannot see it in MathML. @param display  on a line of its own */
export function KatexFormula({ latex, display }: { latex: string; display: boolean }) {
  const katex = useKatex()
  const html = useMemo(
    () =>
      katex?.renderToString(latex, {
        displayMode: display,
        throwOnError: false,
        trust: false,
        strict: false,
        maxExpand: 100,
      }),
    [katex, latex, display],
  )
  return html ? <span dangerouslySetInnerHTML={{ __html: html }} /> : <code>{latex}</code>
}
