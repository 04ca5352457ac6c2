'use client'

import { diffLines } from 'diff'
import { useMemo } from 'react'
import { describeChanges } from '../../core/environment/describe-changes'
import { changesBetween } from '../../core/environment/changes'
import type { Change, ChangeLine } from '../../core/environment/tree'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { formatCount } from '../../core/formats/number'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'

/** Lines shown at the most; who changed more looks at the pictures. */
const LINES = 200

/** What differs between two documents, to be read; each line can be taken back where that is offered. */
export function ChangeList({
  before,
  after,
  onTakeBack,
}: {
  before: EnvironmentDocument
  after: EnvironmentDocument
  onTakeBack?(changes: readonly Change[]): void
}) {
  const lines = useMemo(() => describeChanges(changesBetween(before, after), after), [before, after])
  if (!lines.length) return <p className="text-ink-soft">Nothing differs.</p>
  return (
    <ul className="space-y-1" aria-label="Differences">
      {lines.slice(0, LINES).map((line, i) => (
        <li key={i} className="flex items-start gap-2 leading-5">
          <span className="min-w-0 flex-1">
            <LineText line={line} />
          </span>
          {onTakeBack && (
            <Button
              look="quiet"
              className="!py-0"
              aria-label={`Undo: ${line.what}`}
              title="Undo this change"
              onClick={() => onTakeBack(line.changes)}
            >
              <Icon name="undo" className="size-4" />
            </Button>
          )}
        </li>
      ))}
      {lines.length > LINES && (
        <li className="text-ink-soft">… and {formatCount(lines.length - LINES)} more</li>
      )}
    </ul>
  )
}

function LineText({ line: { what, before, after } }: { line: ChangeLine }) {
  if (before !== null && after !== null && (before.includes('\n') || after.includes('\n')))
    return (
      <>
        <span className="font-semibold">{what}</span>
        <TextDifference before={before} after={after} />
      </>
    )
  return (
    <>
      <span className="font-semibold">{what}</span>
      {': '}
      {before === null ? (
        <>
          new{after ? ', ' : ''}
          <span className="text-spruce">{after}</span>
        </>
      ) : after === null ? (
        <>
          removed{before ? ', it was ' : ''}
          <span className="text-plum">{before}</span>
        </>
      ) : (
        <>
          <span className="text-plum">{before || 'nothing'}</span> →{' '}
          <span className="text-spruce">{after || 'nothing'}</span>
        </>
      )}
    </>
  )
}

/** A text line by line: what went and what came, with a line or two around it. */
function TextDifference({ before, after }: { before: string; after: string }) {
  const parts = diffLines(before, after)
  return (
    <pre className="mt-1 max-h-72 overflow-auto rounded-sm border border-rule bg-paper p-2 font-code text-[12.5px] leading-[17px]">
      {parts.map(({ value, added, removed }, i) => {
        const lines = value.replace(/\n$/, '').split('\n')
        const shown =
          added || removed || lines.length <= 4
            ? lines
            : [...(i > 0 ? lines.slice(0, 2) : []), '…', ...(i < parts.length - 1 ? lines.slice(-2) : [])]
        return shown.map((text, k) => (
          <span
            key={`${i} ${k}`}
            className={`block ${added ? 'bg-spruce/15' : removed ? 'bg-plum/15' : 'text-ink-soft'}`}
          >
            {added ? '+ ' : removed ? '− ' : '  '}
            {text}
          </span>
        ))
      })}
    </pre>
  )
}
