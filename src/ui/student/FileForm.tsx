'use client'

import { useState } from 'react'
import type { Accepted } from '../../core/exercise/exercise'
import { HAND_IN_WORDS } from '../../core/exercise/hand-in-words'
import { Button } from '../parts/Button'
import { FileButton } from '../parts/FileButton'

/** A file is handed in, as it is. */
export function FileForm({
  accepts,
  onSend,
}: {
  accepts: readonly Accepted[]
  onSend(content: Blob): Promise<void>
}) {
  const [file, setFile] = useState<File | null>(null)
  const [busy, setBusy] = useState(false)
  const send = async () => {
    setBusy(true)
    await onSend(file!)
    setBusy(false)
    setFile(null)
  }
  return (
    <div className="space-y-3">
      <ul className="list-disc space-y-1 pl-5 text-[15px] text-ink-soft">
        {accepts.map((kind) => HAND_IN_WORDS[kind].file && <li key={kind}>{HAND_IN_WORDS[kind].file}</li>)}
      </ul>
      <div className="flex flex-wrap items-center gap-3">
        <FileButton label="File to hand in" accept=".json,.csv,.txt,.rules" className="h-11" onFile={setFile}>
          Choose a file …
        </FileButton>
        <span className="min-w-0 break-all">{file ? file.name : 'No file chosen.'}</span>
      </div>
      <Button look="ink" className="h-11 px-6" disabled={!file || busy} onClick={() => void send()}>
        Hand in the file
      </Button>
    </div>
  )
}
