'use client'

import { useState } from 'react'
import type { Contestant } from '../../../core/compare/contestant'
import { LineItem } from '../../charts/LineItem'
import { Button } from '../../parts/Button'
import { Icon } from '../../parts/Icon'
import { useParts } from '../../study/study-context'
import { UseInLearn } from '../../views/UseInLearn'
import { ContestantFindings } from './ContestantFindings'
import { ContestantFields } from './ContestantFields'

/** A contestant of the list: how it is drawn, what it is, and what can be done with it. */
export function ContestantLine({
  contestant,
  name,
  place,
  last,
  hidden,
  problem,
}: {
  contestant: Contestant
  name: string
  /** In the list, from 0. */
  place: number
  last: boolean
  hidden: boolean
  problem: string | null
}) {
  const { compare } = useParts()
  const [open, setOpen] = useState(false)
  const [why, setWhy] = useState(false)
  const { id, follows, choice } = contestant
  return (
    <LineItem
      look={id}
      name={name}
      hidden={hidden}
      onHide={(next) => compare.hide(id, next)}
      onRemove={() => compare.remove(id)}
      actions={
        <>
          <Button
            look="quiet"
            className="!px-1 !py-0 text-[13px]"
            aria-expanded={open}
            aria-label={`Change ${name}`}
            onClick={() => setOpen(!open)}
          >
            Change
          </Button>
          <Button
            look="quiet"
            className="!px-1 !py-0"
            title="The same once more, to change one thing"
            aria-label={`Duplicate ${name}`}
            onClick={() => compare.duplicate(id)}
          >
            <Icon name="plus" className="size-3.5" />
          </Button>
        </>
      }
    >
      {problem && (
        <p role="alert" className="pl-[30px] text-alert">
          {problem}
        </p>
      )}
      {open && (
        <div className="my-1.5 space-y-2 border-l-4 border-rule-strong pl-2.5">
          <ContestantFields contestant={contestant} name={name} />
          <div className="flex flex-wrap gap-2">
            {!follows && <UseInLearn choice={choice} />}
            {!follows && (
              <Button
                className="!px-1.5 !py-0.5 text-[13px]"
                aria-expanded={why}
                aria-label={`Findings on ${name}`}
                onClick={() => setWhy(!why)}
              >
                Findings
              </Button>
            )}
            <Button
              className="!px-1.5 !py-0.5 text-[13px]"
              disabled={place === 0}
              why="it is the first one"
              aria-label={`Move ${name} up`}
              onClick={() => compare.move(id, -1)}
            >
              Up
            </Button>
            <Button
              className="!px-1.5 !py-0.5 text-[13px]"
              disabled={last}
              why="it is the last one"
              aria-label={`Move ${name} down`}
              onClick={() => compare.move(id, 1)}
            >
              Down
            </Button>
          </div>
          {why && !follows && <ContestantFindings contestant={contestant} />}
        </div>
      )}
    </LineItem>
  )
}
