import { useEffect, useState } from 'react'
import { placeOnBoard, type Place } from '../board/board-canvas'

/** Something that is covered; it stays on what it covers when that moves. */
export interface Cover {
  /** Where it lies in the window now; null while what it covers is not shown. */
  measure(): Place | null
}

const boxOf = (element: Element): Place => {
  const { left, top, width, height } = element.getBoundingClientRect()
  return { left, top, width, height }
}

/** A cover over what lies under a point of the window: a place of a board, a cell or a row of a table. */
export function coverAt(x: number, y: number): Cover | null {
  for (const element of document.elementsFromPoint(x, y)) {
    if (placeOnBoard(element, x, y)) {
      const box = boxOf(element)
      const [across, down] = [(x - box.left) / box.width, (y - box.top) / box.height]
      return {
        measure: () => {
          const now = boxOf(element)
          return element.isConnected
            ? placeOnBoard(element, now.left + across * now.width, now.top + down * now.height)
            : null
        },
      }
    }
    const row = element.closest('th, [role=rowheader]')?.closest('tr, [role=row]')
    const cell = row ?? element.closest('td, [role=gridcell], [role=cell]')
    if (cell) return { measure: () => (cell.isConnected ? boxOf(cell) : null) }
  }
  return null
}

/** A cover as large as it was drawn; it moves and grows with the picture under its middle. */
export function coverOver(drawn: Place): Cover {
  const middle = [drawn.left + drawn.width / 2, drawn.top + drawn.height / 2] as const
  const ground =
    document.elementsFromPoint(...middle).find((element) => element.matches('canvas, svg, table')) ??
    document.documentElement
  const box = boxOf(ground)
  return {
    measure: () => {
      if (!ground.isConnected) return null
      const now = boxOf(ground)
      const [wider, higher] = [now.width / box.width, now.height / box.height]
      return {
        left: now.left + (drawn.left - box.left) * wider,
        top: now.top + (drawn.top - box.top) * higher,
        width: drawn.width * wider,
        height: drawn.height * higher,
      }
    },
  }
}

const same = (a: Place | null, b: Place | null) =>
  a === b ||
  (a !== null &&
    b !== null &&
    a.left === b.left &&
    a.top === b.top &&
    a.width === b.width &&
    a.height === b.height)

/** Where covers lie, followed from frame to frame as what is under them moves. */
export function usePlacesOf(covers: readonly Cover[]): readonly (Place | null)[] {
  const [places, setPlaces] = useState<readonly (Place | null)[]>([])
  useEffect(() => {
    if (!covers.length) return
    let request = 0
    const follow = () => {
      const now = covers.map((each) => each.measure())
      setPlaces((before) =>
        before.length === now.length && before.every((place, i) => same(place, now[i])) ? before : now,
      )
      request = requestAnimationFrame(follow)
    }
    follow()
    return () => cancelAnimationFrame(request)
  }, [covers])
  return places
}
