import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type RefObject,
  type PointerEvent,
} from 'react'
import { pixelRatioOf } from '../parts/pixel-ratio'
import { boardFile, type PictureLegend } from '../pictures/board-file'
import { useTakeable, type TakeablePicture } from '../pictures/picture-shelf'
import { useTheme } from '../theme/theme'
import { CanvasPen, readLook, type Look } from './canvas-pen'
import type { Pen } from './pen'
import { changedBoxes, drawStroke, NotingPen, overlap, Patches, type Box, type Stroke } from './strokes'

/** The room a board has, in pixels. */
export interface Room {
  readonly width: number
  readonly height: number
}

/** A rectangle, in pixels. */
export interface Place extends Room {
  readonly left: number
  readonly top: number
}

/** A picture that knows how large it is in the room there is. */
export interface FittedPicture extends Room {
  draw(pen: Pen): void
  /** What lies at a point of it: a state, an arm. Null beside all of them. */
  placeAt(x: number, y: number): NamedPlace | null
}

/** Where something lies on a board. */
export interface NamedPlace extends Place {
  /** The state that it is; undefined for anything else, and for several at once. */
  readonly state?: string
}

/** The pictures on canvases, for what lies over them. */
const fitted = new WeakMap<Element, FittedPicture>()

/** What lies on a board at a point of the window, as a rectangle of the window; null where nothing does. */
export function placeOnBoard(canvas: Element, x: number, y: number): NamedPlace | null {
  const picture = fitted.get(canvas)
  if (!picture) return null
  const box = canvas.getBoundingClientRect()
  // Measured on the page, where a zoomed canvas has another size than it was drawn with.
  const scale = box.width / picture.width
  const place = picture.placeAt((x - box.left) / scale, (y - box.top) / scale)
  return (
    place && {
      ...place,
      left: box.left + place.left * scale,
      top: box.top + place.top * scale,
      width: place.width * scale,
      height: place.height * scale,
    }
  )
}

/** What a board says of itself when it is taken away as a picture. */
export interface BoardWords {
  readonly title: string
  readonly legends: readonly PictureLegend[]
}

/** What every board's canvas says of itself. */
export const BOARD_CANVAS = { tabIndex: 0, role: 'application', 'aria-roledescription': 'board' } as const

/**
 * A canvas in a holder that gives it its room: drawn again when the picture, the room or the theme changes.
 * @param fit    kept the same as long as the picture is the same
 * @param words  asked when the picture is taken away as a file
 */
export function useBoardCanvas(
  fit: (room: Room) => FittedPicture,
  words: () => BoardWords,
): {
  holder: RefObject<HTMLDivElement | null>
  canvas: RefObject<HTMLCanvasElement | null>
  room: Room
} {
  const holder = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const room = useRoom(holder)
  const theme = useTheme((state) => state.theme)
  useEffect(() => {
    const request = requestAnimationFrame(() => {
      if (!canvas.current || room.width === 0) return
      const picture = fit(room)
      fitted.set(canvas.current, picture)
      drawOnCanvas(canvas.current, picture.width, picture.height, picture.draw)
    })
    return () => cancelAnimationFrame(request)
  }, [fit, room, theme])
  const take = useCallback((): TakeablePicture => {
    const file = () => {
      const { width, height, draw } = fit(room)
      return boardFile({ ...words(), width, height, draw }, readLook(canvas.current!).palette)
    }
    return { svg: () => file().svg(), png: () => file().png() }
  }, [fit, room, words])
  useTakeable(take)
  return { holder, canvas, room }
}

/** The room an element has, in pixels; followed as it changes. */
function useRoom(holder: RefObject<HTMLElement | null>): Room {
  const [room, setRoom] = useState<Room>({ width: 0, height: 0 })
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setRoom(entry.contentRect))
    observer.observe(holder.current!)
    return () => observer.disconnect()
  }, [holder])
  return room
}

/** What was drawn last on a canvas, and how. */
interface Drawn {
  readonly strokes: readonly Stroke[]
  readonly width: number
  readonly height: number
  readonly look: Look
  /** Whether the letters had been loaded. */
  readonly fonts: string
}
const drawn = new WeakMap<HTMLCanvasElement, Drawn>()

/** Where one of these has changed, all is drawn again. */
const HOW = ['width', 'height', 'look', 'fonts'] as const

/** The side of what is drawn again at once, in pixels. */
const PATCH = 24
/** Where more than this share has changed, or in so many places, all is drawn again. */
const MOST_PATCHED = 0.6
const MOST_BOXES = 40

/** Sizes a canvas to the screen's pixels, where that is needed, and draws on it what has changed since it was drawn on last. */
function drawOnCanvas(
  canvas: HTMLCanvasElement,
  width: number,
  height: number,
  draw: (pen: Pen) => void,
): void {
  const context = canvas.getContext('2d')
  if (!context) return
  const ratio = pixelRatioOf(canvas)
  const [wide, high] = [Math.round(width * ratio), Math.round(height * ratio)]
  if (canvas.width !== wide || canvas.height !== high) {
    canvas.width = wide
    canvas.height = high
    canvas.style.width = `${width}px`
    canvas.style.height = `${height}px`
    // It is empty now.
    drawn.delete(canvas)
  }
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  const look = readLook(canvas)
  const before = drawn.get(canvas)
  const noting = new NotingPen()
  draw(noting)
  const { strokes } = noting
  const now: Drawn = { strokes, width, height, look, fonts: document.fonts.status }
  drawn.set(canvas, now)
  const pen = new CanvasPen(context, look.palette, look.font)
  if (before && HOW.every((each) => before[each] === now[each])) {
    const patches = new Patches(width, height, Math.ceil(PATCH * ratio) / ratio)
    for (const box of changedBoxes(before.strokes, strokes)) patches.mark(box)
    const boxes = patches.boxes()
    if (patches.share <= MOST_PATCHED && boxes.length <= MOST_BOXES) {
      for (const box of boxes) drawWithin(context, pen, box, strokes)
      return
    }
  }
  context.clearRect(0, 0, width, height)
  for (const stroke of strokes) drawStroke(pen, stroke)
}

/** Draws what lies in a box of a canvas again. Between pixels of the screen it cuts nothing in two: all looks as if drawn at once. */
function drawWithin(context: CanvasRenderingContext2D, pen: Pen, box: Box, strokes: readonly Stroke[]): void {
  const { left, top, right, bottom } = box
  context.save()
  context.beginPath()
  context.rect(left, top, right - left, bottom - top)
  context.clip()
  context.clearRect(left, top, right - left, bottom - top)
  for (const stroke of strokes) if (overlap(stroke.box, box)) drawStroke(pen, stroke)
  context.restore()
}

/** The columns and rows an arrow key moves by. */
export const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [0, -1],
  ArrowRight: [1, 0],
  ArrowDown: [0, 1],
  ArrowLeft: [-1, 0],
}

/** Where cells lie on a canvas, in the pixels it was drawn with. */
export interface CellFrame {
  /** Of the whole canvas. */
  readonly width: number
  readonly left: number
  readonly top: number
  readonly cellWidth: number
  readonly cellHeight: number
  readonly columns: number
  readonly rows: number
}

/** The cell under a pointer, row by row; null beside all of them. */
export function cellUnder(event: PointerEvent, frame: CellFrame): number | null {
  const box = event.currentTarget.getBoundingClientRect()
  const scale = box.width / frame.width
  return cellAt(frame, (event.clientX - box.left) / scale, (event.clientY - box.top) / scale)
}

function cellAt(frame: CellFrame, x: number, y: number): number | null {
  const { left, top, cellWidth, cellHeight, columns, rows } = frame
  const column = Math.floor((x - left) / cellWidth)
  const row = Math.floor((y - top) / cellHeight)
  return column >= 0 && row >= 0 && column < columns && row < rows ? row * columns + column : null
}

/** The cell at a point of a picture of cells. @param stateOf  the state of a cell by its name, where it is one */
export function cellPlace(
  frame: CellFrame,
  x: number,
  y: number,
  stateOf: (cell: number) => string | undefined,
): NamedPlace | null {
  const cell = cellAt(frame, x, y)
  const { left, top, cellWidth, cellHeight, columns } = frame
  return cell === null
    ? null
    : {
        state: stateOf(cell),
        left: left + (cell % columns) * cellWidth,
        top: top + Math.floor(cell / columns) * cellHeight,
        width: cellWidth,
        height: cellHeight,
      }
}
