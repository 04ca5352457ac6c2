'use client'

import { useState, type DragEvent } from 'react'
import type { Lesson } from '../../core/lesson/lesson-document'
import { STAGES } from '../stages/stages'
import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'

/** The views of a lesson, in order; the chosen one with what can be done with it. */
export function ViewList({
  lesson,
  chosen,
  onChoose,
  onMove,
  onDuplicate,
  onRemove,
}: {
  lesson: Lesson
  chosen: string | null
  onChoose(id: string): void
  onMove(id: string, by: number): void
  onDuplicate(id: string): void
  onRemove(id: string): void
}) {
  const { views, environments } = lesson
  const [dragged, setDragged] = useState<number | null>(null)
  const drop = (event: DragEvent, place: number) => {
    event.preventDefault()
    if (dragged !== null && dragged !== place) onMove(views[dragged].id, place - dragged)
    setDragged(null)
  }
  return (
    <ol>
      {views.map(({ id, title, environment, scene }, i) => (
        <li
          key={id}
          className={`border-l-4 px-3 py-1.5 ${id === chosen ? 'border-brass-bright bg-rule/40' : 'border-transparent hover:bg-rule/20'}`}
          draggable
          onDragStart={() => setDragged(i)}
          onDragOver={(event) => event.preventDefault()}
          onDrop={(event) => drop(event, i)}
        >
          <button
            type="button"
            className="w-full text-left"
            aria-current={id === chosen ? 'true' : undefined}
            onClick={() => onChoose(id)}
          >
            <span className="block leading-5 font-semibold">
              {i + 1}. {title || 'Without a title'}
            </span>
            <span className="block truncate text-[13px] text-ink-soft">
              {environments[environment].document.name}, {STAGES[scene.stage].title}
            </span>
          </button>
          {id === chosen && (
            <div className="mt-1 flex gap-1">
              <Button
                className="!px-1.5 !py-0 text-[13px]"
                disabled={i === 0}
                why="it is the first one"
                aria-label="Move up"
                onClick={() => onMove(id, -1)}
              >
                Up
              </Button>
              <Button
                className="!px-1.5 !py-0 text-[13px]"
                disabled={i === views.length - 1}
                why="it is the last one"
                aria-label="Move down"
                onClick={() => onMove(id, 1)}
              >
                Down
              </Button>
              <Button
                className="!px-1.5 !py-0 text-[13px]"
                aria-label="Duplicate the view"
                title="The same once more"
                onClick={() => onDuplicate(id)}
              >
                <Icon name="plus" className="size-3.5" />
              </Button>
              <Button
                className="!px-1.5 !py-0 text-[13px]"
                aria-label="Remove the view"
                title="Remove it; undo brings it back"
                onClick={() => onRemove(id)}
              >
                <Icon name="cross" className="size-3.5" />
              </Button>
            </div>
          )}
        </li>
      ))}
    </ol>
  )
}
