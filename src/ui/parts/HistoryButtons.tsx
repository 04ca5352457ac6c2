import { Button } from './Button'
import { Icon } from './Icon'

/** Undo and redo, in a head. */
export function HistoryButtons({
  canUndo,
  canRedo,
  undo,
  redo,
}: {
  canUndo: boolean
  canRedo: boolean
  undo(): void
  redo(): void
}) {
  return (
    <>
      <Button look="quiet" aria-label="Undo" title="Undo (Ctrl + Z)" disabled={!canUndo} onClick={undo}>
        <Icon name="undo" />
      </Button>
      <Button
        look="quiet"
        aria-label="Redo"
        title="Redo (Ctrl + Shift + Z)"
        disabled={!canRedo}
        onClick={redo}
      >
        <Icon name="redo" />
      </Button>
    </>
  )
}
