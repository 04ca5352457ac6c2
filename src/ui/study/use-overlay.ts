import { useMemo } from 'react'
import { NOTHING_SHOWN, type ShownOverlay } from '../board/overlay'
import { lay } from '../layers/layers'
import type { LayerSource } from '../layers/layer'
import { useCovered, useModel, useParts, useStudy } from './study-context'
import { useStage } from './use-stage'

/** What the stage lays over the board, and what layers take theirs from; `source` is null where it lays nothing. */
export function useStageOverlay(board = 0): { shown: ShownOverlay; source: LayerSource | null } {
  const parts = useParts()
  const { stage, states } = useStage()
  const layers = useStudy((state) => state.layers)
  const planned = useStudy((state) => state.planned)
  const covered = useCovered()
  const model = useModel((state) => state.compiled?.model)
  return useMemo(() => {
    const laid = model && stage.overlay(parts, model, covered, board)
    return laid
      ? { shown: laid.source ? lay(laid.shown, layers, laid.source) : laid.shown, source: laid.source }
      : { shown: NOTHING_SHOWN, source: null }
    // What the stage reads from its stores is new when their states are.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [parts, stage, states, layers, planned, covered, model, board])
}

/** @param board  which of several boards */
export function useOverlay(board = 0): ShownOverlay {
  return useStageOverlay(board).shown
}
