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
import { CanvasPen, readPalette } from './canvas-pen'
import type { Pen } from './pen'

/** The room a board has, in pixels. */
export interface Room {
  readonly width: number
  readonly height: number
}

/** A picture that knows how large it is in the room there is. */
export interface FittedPicture extends Room {
  draw(pen: Pen): void
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
      const { width, height, draw } = fit(room)
      drawOnCanvas(canvas.current, width, height, draw)
    })
    return () => cancelAnimationFrame(request)
  }, [fit, room, theme])
  const take = useCallback((): TakeablePicture => {
    const file = () => {
      const { width, height, draw } = fit(room)
      return boardFile({ ...words(), width, height, draw }, readPalette(canvas.current!))
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

/** Sizes a canvas to the screen's pixels, where that is needed, clears it and draws on it. */
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
  }
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  context.clearRect(0, 0, width, height)
  draw(new CanvasPen(context, readPalette(canvas), getComputedStyle(canvas).fontFamily))
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
export function cellUnder(
  event: PointerEvent,
  { width, left, top, cellWidth, cellHeight, columns, rows }: CellFrame,
): number | null {
  const box = event.currentTarget.getBoundingClientRect()
  // Measured on the page, where a zoomed canvas has another size than it was drawn with.
  const scale = box.width / width
  const column = Math.floor(((event.clientX - box.left) / scale - left) / cellWidth)
  const row = Math.floor(((event.clientY - box.top) / scale - top) / cellHeight)
  return column >= 0 && row >= 0 && column < columns && row < rows ? row * columns + column : null
}
