'use client'

import { createContext, useContext, useEffect } from 'react'

/** A picture on screen that can be taken away as a file, legend and all. */
export interface TakeablePicture {
  svg(): string | Promise<string>
  png(): Promise<Blob>
}

/** The pictures on screen by what they are called: `board`, `strip` … */
export type PictureShelf = Map<string, TakeablePicture>

/** Where pictures are put that can be taken away; none outside a study. */
export const PictureContext = createContext<{
  readonly shelf: PictureShelf
  readonly slot: string
  /** What stands above the picture. */
  readonly title: string
} | null>(null)

/** What stands above a picture that is taken away. */
export function useTitle(): string {
  return useContext(PictureContext)?.title ?? ''
}

/** Puts a picture on the shelf while it is on screen. @param takeable  false where it is none to take away */
export function useTakeable(make: () => TakeablePicture, takeable = true): void {
  const context = useContext(PictureContext)
  useEffect(() => {
    if (!context || !takeable) return
    const picture = make()
    context.shelf.set(context.slot, picture)
    return () => {
      if (context.shelf.get(context.slot) === picture) context.shelf.delete(context.slot)
    }
  }, [context, make, takeable])
}
