import { useLayoutEffect, useState, type RefObject } from 'react'
import { CanvasPen, readPalette } from './canvas-pen'

/** The room an element has, in pixels; followed as it changes. */
export function useRoom(holder: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [room, setRoom] = useState({ width: 0, height: 0 })
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setRoom(entry.contentRect))
    observer.observe(holder.current!)
    return () => observer.disconnect()
  }, [holder])
  return room
}

/** Sizes a canvas to the screen's pixels, where that is needed, clears it and draws on it. */
export function drawOnCanvas(
  canvas: HTMLCanvasElement,
  width: number,
  height: number,
  draw: (pen: CanvasPen, context: CanvasRenderingContext2D) => void,
): void {
  const context = canvas.getContext('2d')
  if (!context) return
  const ratio = window.devicePixelRatio || 1
  const [wide, high] = [Math.round(width * ratio), Math.round(height * ratio)]
  if (canvas.width !== wide || canvas.height !== high) {
    canvas.width = wide
    canvas.height = high
    canvas.style.width = `${width}px`
    canvas.style.height = `${height}px`
  }
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  context.clearRect(0, 0, width, height)
  draw(new CanvasPen(context, readPalette(canvas), getComputedStyle(canvas).fontFamily), context)
}

/** The columns and rows an arrow key moves by. */
export const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [0, -1],
  ArrowRight: [1, 0],
  ArrowDown: [0, 1],
  ArrowLeft: [-1, 0],
}
