import { useEffect } from 'react'
import type { GridEnvironment } from '../../../core/kinds/grid/kind'
import { copyRegion, pastePatch } from '../../../core/kinds/grid/transform'
import { useParts } from '../../study/study-context'
import { SHAPES, TOOLS, useBrush, type Shape, type Tool } from './brush'

const TOOL_KEYS = new Map(Object.entries(TOOLS).map(([tool, { key }]) => [key as string, tool as Tool]))
const SHAPE_KEYS = new Map(Object.entries(SHAPES).map(([shape, { key }]) => [key as string, shape as Shape]))

/** One-key choice of tools and shapes; copy and paste of the marked part. */
export function useToolKeys(): void {
  const { study } = useParts()
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement
      const { document } = study.getState()
      if (document.kind !== 'grid' || target.closest('input, textarea, select, [role=dialog], [role=menu]'))
        return
      const key = event.key.toLowerCase()
      const { pick, set } = useBrush.getState()
      if ((event.ctrlKey || event.metaKey) && (key === 'c' || key === 'v')) {
        if (key === 'c' ? copyMarked(document) : pasteHere(document, study.getState())) event.preventDefault()
        return
      }
      if (event.ctrlKey || event.metaKey || event.altKey) return
      const tool = TOOL_KEYS.get(key)
      const shape = SHAPE_KEYS.get(key)
      if (tool) pick(tool)
      else if (shape) set({ shape })
      else if (key === 'g') nextGround(document)
      else if (key === 'escape') set({ region: null })
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [study])
}

function nextGround({ grid }: GridEnvironment): void {
  const { tool, symbol, pick } = useBrush.getState()
  const others = grid.grounds.slice(1)
  if (!others.length) return
  const next = others.findIndex((ground) => tool === 'ground' && ground.symbol === symbol) + 1
  pick('ground', others[next % others.length].symbol)
}

/** @returns whether something was marked */
export function copyMarked({ grid }: GridEnvironment): boolean {
  const { region, set } = useBrush.getState()
  if (!region) return false
  set({ copied: copyRegion(grid, region) })
  return true
}

/** Pastes at the marked part, else at the selected cell. @returns whether something was copied */
export function pasteHere(
  document: GridEnvironment,
  { cursor, edit }: { cursor: number | null; edit(document: GridEnvironment): void },
): boolean {
  const { region, copied } = useBrush.getState()
  if (!copied) return false
  const { grid } = document
  const columns = grid.floor[0].length
  const cell = (cursor ?? 0) % (columns * grid.floor.length)
  const at = region
    ? { column: region.left, row: region.top }
    : { column: cell % columns, row: Math.floor(cell / columns) }
  edit({ ...document, grid: pastePatch(grid, copied, at) })
  return true
}
