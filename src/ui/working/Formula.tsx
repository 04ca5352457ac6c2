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

/** A formula set as in a book; `words` say the same to those who cannot see it. */
export function Formula({ latex, words }: { latex: string; words: string }) {
  const [katex, setKatex] = useState(() => loaded)
  useEffect(() => {
    let gone = false
    // Loaded with the first formula; its words stand there until then.
    if (!katex)
      void import('katex').then(({ default: found }) => {
        loaded = found
        if (!gone) setKatex(() => found)
      })
    return () => {
      gone = true
    }
  }, [katex])
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
