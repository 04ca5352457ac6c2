import { useEffect, useState } from 'react'
import type { Covered } from '../../core/lesson/covered'
import { placeOnBoard, type Place } from '../board/board-canvas'

/** Something that is covered; it stays on what it covers when that moves. */
export interface Cover {
  /** The same in terms that hold on other screens; null for what is only on this one. */
  readonly what: Covered | null
  /** What the class can be asked of it: the state of a board, or a number of a table as it stands there. */
  readonly state?: string
  readonly says?: string
  /** Where it lies in the window now; null while what it covers is not shown. */
  measure(): Place | null
}

const boxOf = (element: Element): Place => {
  const { left, top, width, height } = element.getBoundingClientRect()
  return { left, top, width, height }
}

/** The part of a box, by its shares. */
const partOf = (box: Place, { left, top, width, height }: Place): Place => ({
  left: box.left + left * box.width,
  top: box.top + top * box.height,
  width: width * box.width,
  height: height * box.height,
})

function placeAt(canvas: Element, across: number, down: number): Place | null {
  const box = boxOf(canvas)
  const found = placeOnBoard(canvas, box.left + across * box.width, box.top + down * box.height)
  if (!found) return null
  const { left, top, width, height } = found
  return { left, top, width, height }
}

const ROW = 'tr, [role=row]'
const ROW_HEAD = 'th, [role=rowheader]'
const CELL = 'td, [role=gridcell], [role=cell]'
const COLUMN_HEAD = 'thead th, [role=columnheader]'
const wordsOf = (element: Element | null | undefined) => element?.textContent?.trim() ?? ''

/** The head of the column of a cell; null where it has none. */
function columnOf(cell: Element): string | null {
  const heads = cell.closest('table, [role=grid], [role=table]')?.querySelector(COLUMN_HEAD)?.parentElement
  const place = [...cell.parentElement!.children].indexOf(cell)
  return wordsOf(heads?.children[place]) || null
}

/** A cover over what lies under a point of the window: a place of a board, a cell or a row of a table. */
export function coverAt(x: number, y: number): Cover | null {
  for (const element of document.elementsFromPoint(x, y)) {
    const place = placeOnBoard(element, x, y)
    if (place) {
      const box = boxOf(element)
      const [across, down] = [(x - box.left) / box.width, (y - box.top) / box.height]
      return {
        what: { on: 'board', across, down },
        state: place.state,
        measure: () => (element.isConnected ? placeAt(element, across, down) : null),
      }
    }
    const row = element.closest(ROW_HEAD)?.closest(ROW)
    const cell = row ?? element.closest(CELL)
    if (cell) {
      const head = wordsOf(cell.closest(ROW)?.querySelector(ROW_HEAD))
      return {
        what: { on: 'table', row: head, column: row ? null : columnOf(cell) },
        says: row ? undefined : wordsOf(cell),
        measure: () => (cell.isConnected ? boxOf(cell) : null),
      }
    }
  }
  return null
}

const BOARD = 'canvas[aria-roledescription=board]'

/** A cover as large as it was drawn; it moves and grows with the picture under its middle. */
export function coverOver(drawn: Place): Cover {
  const middle = [drawn.left + drawn.width / 2, drawn.top + drawn.height / 2] as const
  const ground =
    document.elementsFromPoint(...middle).find((element) => element.matches('canvas, svg, table')) ??
    document.documentElement
  const box = boxOf(ground)
  const part = {
    left: (drawn.left - box.left) / box.width,
    top: (drawn.top - box.top) / box.height,
    width: drawn.width / box.width,
    height: drawn.height / box.height,
  }
  return {
    what: ground.matches(BOARD) ? { on: 'part', ...part } : null,
    measure: () => (ground.isConnected ? partOf(boxOf(ground), part) : null),
  }
}

/** The cover that another screen has, over the same on this one. */
export function coverOf(what: Covered): Cover {
  const find = (): Place | null => {
    if (what.on === 'table') {
      const rows = [...document.querySelectorAll(ROW)].filter(
        (row) => wordsOf(row.querySelector(ROW_HEAD)) === what.row,
      )
      const found =
        what.column === null
          ? rows[0]
          : rows
              .flatMap((row) => [...row.querySelectorAll(CELL)])
              .find((cell) => columnOf(cell) === what.column)
      return found ? boxOf(found) : null
    }
    const board = document.querySelector(BOARD)
    if (!board) return null
    return what.on === 'part' ? partOf(boxOf(board), what) : placeAt(board, what.across, what.down)
  }
  return { what, measure: find }
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
