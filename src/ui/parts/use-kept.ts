import { useEffect } from 'react'
import type { KeptSession } from '../../session/kept-session'

/** Leaving saves what is not saved yet. */
export function useSavingOnLeave({ store, save }: KeptSession<unknown>): void {
  useEffect(() => {
    const leave = (event: BeforeUnloadEvent) => {
      if (store.getState().saving === 'saved') return
      void save()
      event.preventDefault()
    }
    window.addEventListener('beforeunload', leave)
    return () => {
      window.removeEventListener('beforeunload', leave)
      void save()
    }
  }, [store, save])
}

export function useUndoKeys({ undo, redo }: KeptSession<unknown>): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase()
      if (!(event.ctrlKey || event.metaKey) || (key !== 'z' && key !== 'y')) return
      if ((event.target as HTMLElement).closest('input, textarea')) return
      event.preventDefault()
      // Before the study, which would undo what was played with.
      event.stopImmediatePropagation()
      if (key === 'y' || event.shiftKey) redo()
      else undo()
    }
    window.addEventListener('keydown', press, { capture: true })
    return () => window.removeEventListener('keydown', press, { capture: true })
  }, [undo, redo])
}
