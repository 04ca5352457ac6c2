import { useCallback } from 'react'
import { useTitle } from '../pictures/picture-shelf'
import type { BoardWords } from './board-canvas'
import type { BoardLegend } from './legends'

/** The name and the legends that a board takes along as a file. @param actions  where needles stand for them */
export function useBoardWords(
  legends: readonly BoardLegend[] = [],
  actions: readonly string[] | null = null,
): () => BoardWords {
  const title = useTitle()
  return useCallback(
    () => ({ title, legends: [...legends, ...(actions ? [{ title: 'policy', actions }] : [])] }),
    [legends, actions, title],
  )
}
