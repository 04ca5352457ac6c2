'use client'

import type { Compiled } from '../../core/kinds/kinds'
import { writePlainText } from '../../core/formats/plain-text'
import { Button } from '../parts/Button'
import { downloadText } from '../parts/download'
import { fileName } from '../../core/formats/file-name'
import { BoardFrame } from '../study/BoardFrame'
import { useStudy } from '../study/study-context'
import { useOverlay } from '../study/use-overlay'

/** The environment and its numbers as plain text. */
export function TextPane({ compiled }: { compiled: Compiled | null }) {
  const document = useStudy((state) => state.document)
  const cursor = useStudy((state) => state.cursor)
  const { overlay } = useOverlay()
  const text = writePlainText(document, compiled, overlay, cursor ?? 0)
  return (
    <BoardFrame
      controls={
        <div className="flex gap-2">
          <Button
            className="px-1.5 py-0.5 text-[13px]"
            onClick={() => void navigator.clipboard?.writeText(text)}
          >
            Copy
          </Button>
          <Button
            className="px-1.5 py-0.5 text-[13px]"
            onClick={() => downloadText(fileName(document.name, '.txt'), text, 'text/plain')}
          >
            Download
          </Button>
        </div>
      }
    >
      <pre
        tabIndex={0}
        aria-label={`${document.name} as plain text`}
        className="h-full overflow-auto rounded-sm border border-rule-strong bg-sheet p-3 font-code text-[13px] leading-[18px]"
      >
        {text}
      </pre>
    </BoardFrame>
  )
}
