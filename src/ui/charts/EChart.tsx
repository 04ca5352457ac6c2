'use client'

import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from 'echarts/components'
import { init, use as register, type EChartsCoreOption, type EChartsType } from 'echarts/core'
import { CanvasRenderer, SVGRenderer } from 'echarts/renderers'
import { useCallback, useEffect, useRef } from 'react'
import { formatCount } from '../../core/formats/number'
import { cssColour, readPalette, type Palette } from '../board/canvas-pen'
import type { Colour } from '../board/pen'
import { pngOf } from '../pictures/board-file'
import { useTakeable, type TakeablePicture } from '../pictures/picture-shelf'
import { useTheme } from '../theme/theme'

register([
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  TooltipComponent,
  MarkLineComponent,
  CanvasRenderer,
  SVGRenderer,
])

/** Colours of the theme in force, for option builders. */
export type Inks = (colour: Colour) => string

interface Props {
  /** Builds the chart's option; called again when it or the theme changes. */
  readonly build: (inks: Inks) => EChartsCoreOption
  /** What the chart shows, for those who cannot see it. */
  readonly label: string
  /** A point of the plot was clicked: its value on the x axis. */
  onPick?(x: number): void
}

/** Between two drawings of a chart at the least, in milliseconds: the board beside it comes first. */
const REST = 100

/** The one place where charts are made. */
export function EChart({ build, label, onPick }: Props) {
  const element = useRef<HTMLDivElement>(null)
  const chart = useRef<EChartsType>(null)
  const pick = useRef(onPick)
  const theme = useTheme((state) => state.theme)
  const drawn = useRef(-Infinity)

  useEffect(() => {
    pick.current = onPick
  })

  useEffect(() => {
    const made = init(element.current!)
    chart.current = made
    made.getZr().on('click', (event) => {
      const [x] = made.convertFromPixel({ gridIndex: 0 }, [event.offsetX, event.offsetY])
      if (Number.isFinite(x)) pick.current?.(x)
    })
    const observer = new ResizeObserver(() => made.resize())
    observer.observe(element.current!)
    return () => {
      observer.disconnect()
      made.dispose()
    }
  }, [])

  useEffect(() => {
    const draw = () => {
      drawn.current = performance.now()
      const palette: Palette = readPalette(element.current!)
      chart.current?.setOption(
        build((colour) => cssColour(palette, colour)),
        { notMerge: true },
      )
    }
    const wait = drawn.current + REST - performance.now()
    if (wait <= 0) return draw()
    const timer = setTimeout(draw, wait)
    return () => clearTimeout(timer)
  }, [build, theme])

  const take = useCallback(
    (): TakeablePicture => ({
      svg: () => chartSvg(build, element.current!),
      png: () => chartPng(build, element.current!),
    }),
    [build],
  )
  useTakeable(take)

  return <div ref={element} role="img" aria-label={label} className="h-full w-full" />
}

/** The chart once more, for a file: as large as it is on screen, on paper. */
function again(build: Props['build'], element: HTMLElement, renderer: 'svg' | 'canvas'): EChartsType {
  const palette = readPalette(element)
  const size = { width: element.clientWidth, height: element.clientHeight }
  const made = init(
    renderer === 'svg' ? null : document.createElement('div'),
    null,
    renderer === 'svg' ? { renderer, ssr: true, ...size } : { renderer, devicePixelRatio: 2, ...size },
  )
  made.setOption({
    ...build((colour) => cssColour(palette, colour)),
    backgroundColor: cssColour(palette, 'paper'),
  })
  return made
}

function chartSvg(build: Props['build'], element: HTMLElement): string {
  const made = again(build, element, 'svg')
  const text = made.renderToSVGString()
  made.dispose()
  return text
}

async function chartPng(build: Props['build'], element: HTMLElement): Promise<Blob> {
  const made = again(build, element, 'canvas')
  const blob = await pngOf(made.renderToCanvas({ pixelRatio: 2 }))
  made.dispose()
  return blob
}

/**
 * Charts draw on a canvas, which wants a font name with digits in quotes; single ones, as the chart library writes the
 * name into an attribute with double ones.
 */
const FONT = "'Source Sans 3 Variable', 'Source Sans 3', 'Arial Narrow', Arial, sans-serif"

/** What the lines are, above the plot at the right. */
export function houseLegend(inks: Inks, show: boolean): object {
  return {
    show,
    top: 0,
    right: 16,
    itemHeight: 8,
    itemWidth: 18,
    icon: 'rect',
    textStyle: { color: inks('ink-soft'), fontSize: 12 },
  }
}

/** Axes, grid and text in the house's way. */
export function houseAxes(
  inks: Inks,
  x: { name: string; min: number; max: number },
  y: object,
): EChartsCoreOption {
  const text = { color: inks('ink-soft'), fontFamily: FONT, fontSize: 12 }
  return {
    animation: false,
    textStyle: { fontFamily: FONT },
    grid: { left: 56, right: 18, top: 24, bottom: 34 },
    xAxis: {
      type: 'value',
      name: x.name,
      nameLocation: 'end',
      nameTextStyle: { ...text, align: 'right', verticalAlign: 'top', padding: [20, 0, 0, 0] },
      min: x.min,
      max: x.max,
      minInterval: 1,
      axisLabel: { ...text, hideOverlap: true, formatter: (value: number) => formatCount(value) },
      axisLine: { onZero: false, lineStyle: { color: inks('rule-strong') } },
      axisTick: { lineStyle: { color: inks('rule-strong') } },
      splitLine: { show: false },
    },
    yAxis: {
      nameTextStyle: { ...text, align: 'left', padding: [0, 0, 0, -48] },
      nameGap: 8,
      axisLabel: text,
      splitLine: { lineStyle: { color: inks('rule') } },
      ...y,
    },
    tooltip: {
      trigger: 'axis',
      backgroundColor: inks('sheet'),
      borderColor: inks('rule-strong'),
      textStyle: { color: inks('ink'), fontFamily: FONT, fontSize: 13 },
    },
  }
}
