'use client'

import { useState } from 'react'
import { Button } from '../parts/Button'
import { useDraft } from './use-draft'

/** A policy as one rule of the rulebook language. */
export function RuleForm({ id, onSend }: { id: string; onSend(content: string): Promise<void> }) {
  const [text, setText] = useDraft(`rule ${id}`, 'policy "mine": ')
  const [busy, setBusy] = useState(false)
  const send = async () => {
    setBusy(true)
    await onSend(text)
    setBusy(false)
  }
  return (
    <div className="space-y-3">
      <label className="block text-[15px]">
        <span className="text-ink-soft">
          One rule: actions with when they are taken, the last one for all else. For example{' '}
          <code className="whitespace-nowrap">policy &quot;mine&quot;: sell when left &gt; 3, wait</code>
        </span>
        <textarea
          className="mt-2 h-36 w-full rounded-sm border border-rule-strong bg-sheet p-2 font-mono text-[15px] leading-6"
          spellCheck={false}
          autoCapitalize="off"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <Button look="ink" className="h-11 px-6" disabled={busy} onClick={() => void send()}>
        Hand in this rule
      </Button>
    </div>
  )
}
