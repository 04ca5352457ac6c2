'use client'

import type { EChartsCoreOption, EChartsType } from 'echarts/core'
import { useCallback, useEffect, useRef, useState } from 'react'
import { cssColour, readLook } from '../board/canvas-pen'
import { pngOf } from '../pictures/board-file'
import { useTakeable, type TakeablePicture } from '../pictures/picture-shelf'
import { pixelRatioOf } from '../parts/pixel-ratio'
import { useTheme } from '../theme/theme'
import type * as echarts from './echarts'
import type { Inks } from './house'

interface Props {
  /** Builds the chart's option; called again when it, the theme or the width changes. @param width  in pixels */
  readonly build: (inks: Inks, width: number) => EChartsCoreOption
  /** What the chart shows, for those who cannot see it. */
  readonly label: string
  /** Drawn larger, letters and lines and all, to be read from far away. */
  readonly large?: boolean
  /** Whether it is no picture of its own, to be taken away. */
  readonly small?: boolean
  /** A point of the plot was clicked: its values on the axes. */
  onPick?(x: number, y: number): void
  /** A mark of a series, or a line, was clicked: what its `name` is. */
  onMark?(name: string): void
}

type Library = typeof echarts

/** How many times larger a large chart is drawn. */
const LARGER = 1.5

/** Between two drawings of a chart at the least, in milliseconds, and so many times as long as the last one took: the board beside it comes first. */
const REST = 100
const REST_SHARE = 6

let loaded: Library | undefined

/** The chart library, loaded with the first chart. */
async function loadLibrary(): Promise<Library> {
  return (loaded ??= await import('./echarts'))
}

/** The one place where charts are made. */
export function EChart({ build, label, large = false, small = false, onPick, onMark }: Props) {
  const element = useRef<HTMLDivElement>(null)
  const chart = useRef<EChartsType>(null)
  const heard = useRef({ onPick, onMark })
  const theme = useTheme((state) => state.theme)
  /** From when on it may be drawn again. */
  const due = useRef(-Infinity)
  const [library, setLibrary] = useState(loaded)
  const [room, setRoom] = useState(0)
  // Others are only stretched by it.
  const width = build.length > 1 ? room : 0

  useEffect(() => {
    heard.current = { onPick, onMark }
  })

  useEffect(() => {
    let gone = false
    if (!library) void loadLibrary().then((found) => gone || setLibrary(found))
    return () => {
      gone = true
    }
  }, [library])

  useEffect(() => {
    if (!library) return
    const made = library.init(element.current!, null, {
      devicePixelRatio: pixelRatioOf(element.current!) * (large ? LARGER : 1),
    })
    chart.current = made
    due.current = -Infinity
    made.getZr().on('click', (event) => {
      const [x, y] = made.convertFromPixel({ gridIndex: 0 }, [event.offsetX, event.offsetY])
      if (Number.isFinite(x)) heard.current.onPick?.(x, y)
    })
    made.on('click', ({ name, seriesName }) => heard.current.onMark?.(name || (seriesName ?? '')))
    const observer = new ResizeObserver(() => {
      made.resize()
      setRoom(made.getWidth())
    })
    observer.observe(element.current!)
    return () => {
      observer.disconnect()
      made.dispose()
    }
  }, [library, large])

  useEffect(() => {
    if (!library) return
    const draw = () => {
      const began = performance.now()
      const { palette } = readLook(element.current!)
      chart.current?.setOption(
        build((colour) => cssColour(palette, colour), element.current!.clientWidth),
        { notMerge: true },
      )
      const ended = performance.now()
      due.current = ended + Math.max(REST, REST_SHARE * (ended - began))
    }
    if (due.current === -Infinity) return draw()
    // In a task of its own, not in that of the board.
    const timer = setTimeout(draw, Math.max(0, due.current - performance.now()))
    return () => clearTimeout(timer)
  }, [build, theme, library, large, width])

  const take = useCallback(
    (): TakeablePicture => ({
      svg: async () => chartSvg(await loadLibrary(), build, element.current!),
      png: async () => chartPng(await loadLibrary(), build, element.current!),
    }),
    [build],
  )
  useTakeable(take, !small)

  const part = `${100 / LARGER}%`
  return (
    <div className="h-full w-full overflow-hidden" role="img" aria-label={label}>
      <div
        ref={element}
        className="h-full w-full"
        style={
          large
            ? { width: part, height: part, transform: `scale(${LARGER})`, transformOrigin: '0 0' }
            : undefined
        }
      />
    </div>
  )
}

/** The chart once more, for a file: as large as it is on screen, on paper. */
function again(
  { init }: Library,
  build: Props['build'],
  element: HTMLElement,
  renderer: 'svg' | 'canvas',
): EChartsType {
  const { palette } = readLook(element)
  const size = { width: element.clientWidth, height: element.clientHeight }
  const made = init(
    renderer === 'svg' ? null : document.createElement('div'),
    null,
    renderer === 'svg' ? { renderer, ssr: true, ...size } : { renderer, devicePixelRatio: 2, ...size },
  )
  made.setOption({
    ...build((colour) => cssColour(palette, colour), size.width),
    backgroundColor: cssColour(palette, 'paper'),
  })
  return made
}

function chartSvg(library: Library, build: Props['build'], element: HTMLElement): string {
  const made = again(library, build, element, 'svg')
  const text = made.renderToSVGString()
  made.dispose()
  return text
}

async function chartPng(library: Library, build: Props['build'], element: HTMLElement): Promise<Blob> {
  const made = again(library, build, element, 'canvas')
  const blob = await pngOf(made.renderToCanvas({ pixelRatio: 2 }))
  made.dispose()
  return blob
}
