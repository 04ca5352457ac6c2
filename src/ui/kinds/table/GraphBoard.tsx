'use client'

import { needleActions, type BoardLegend } from '../../board/legends'
import { useCallback, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { ARROWS, BOARD_CANVAS, useBoardCanvas, type Room } from '../../board/board-canvas'
import { useBoardWords } from '../../board/board-words'
import { CHANCE_SIDE, STATE_SIDE, type GraphNode } from './graph-layout'
import type { Pen } from '../../board/pen'
import { drawGraph, frameGraph, type GraphPicture } from './graph-picture'

interface Props {
  readonly picture: GraphPicture
  readonly legends: readonly BoardLegend[]
  /** What the picture shows, for those who cannot see it. */
  readonly label: string
  /** The node under the pointer, null when it leaves. */
  onHover(node: GraphNode | null): void
  onSelect(state: number): void
  /** A node was dragged to a place, in the units of the layout. */
  onPlace(key: string, x: number, y: number): void
}

/** Pixels a pointer may tremble before it drags. */
const TREMBLE = 4

/** The place of the node at a point of the layout; -1 for none. */
function nodeUnder(nodes: readonly GraphNode[], x: number, y: number): number {
  // Chance nodes are small: a little beside one still counts.
  return nodes.findIndex(
    (node) => Math.hypot(node.x - x, node.y - y) <= (node.row < 0 ? STATE_SIDE / 2 : CHANCE_SIDE),
  )
}

/** States and chance nodes on a canvas, fitted to the room there is. Nodes can be dragged; arrow keys walk the states. */
export function GraphBoard({ picture, legends, label, onHover, onSelect, onPlace }: Props) {
  const drag = useRef<{ node: number; x: number; y: number; moved: boolean } | null>(null)
  /** A node on its way, which the picture follows before the document does. */
  const [held, setHeld] = useState<{ node: number; x: number; y: number } | null>(null)
  const shown = useMemo(
    () =>
      held
        ? {
            ...picture,
            layout: {
              ...picture.layout,
              nodes: picture.layout.nodes.map((node, i) => (i === held.node ? { ...node, ...held } : node)),
            },
          }
        : picture,
    [picture, held],
  )
  const fit = useCallback(
    ({ width, height }: Room) => {
      // Fitted to where things lie at rest: a drag must not move the ground under the pointer.
      const frame = frameGraph(picture.layout, width, height)
      return {
        width,
        height,
        draw: (pen: Pen) => drawGraph(pen, shown, frame),
        placeAt: (x: number, y: number) => {
          const { nodes } = picture.layout
          const node = nodes[nodeUnder(nodes, (x - frame.left) / frame.scale, (y - frame.top) / frame.scale)]
          if (!node) return null
          const side = (node.row < 0 ? STATE_SIDE : 2 * CHANCE_SIDE) * frame.scale
          return {
            state: node.row < 0 ? shown.model.labels[node.state] : undefined,
            left: frame.left + node.x * frame.scale - side / 2,
            top: frame.top + node.y * frame.scale - side / 2,
            width: side,
            height: side,
          }
        },
      }
    },
    [shown, picture.layout],
  )
  const { holder, canvas, room } = useBoardCanvas(fit, useBoardWords(legends, needleActions(picture)))
  const frame = frameGraph(picture.layout, room.width, room.height)

  const pointAt = (event: PointerEvent): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect()
    const zoom = box.width / (room.width || 1)
    return [
      ((event.clientX - box.left) / zoom - frame.left) / frame.scale,
      ((event.clientY - box.top) / zoom - frame.top) / frame.scale,
    ]
  }
  const nodeAt = (event: PointerEvent): number => {
    const [x, y] = pointAt(event)
    return nodeUnder(picture.layout.nodes, x, y)
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const move = ARROWS[event.key]
    if (!move) return
    event.preventDefault()
    const states = picture.layout.nodes.slice(0, picture.model.states)
    const from = states[picture.selected ?? -1]
    if (!from) return onSelect(0)
    let best: GraphNode | undefined
    let least = Infinity
    for (const node of states) {
      const along = (node.x - from.x) * move[0] + (node.y - from.y) * move[1]
      const across = Math.abs((node.x - from.x) * move[1] + (node.y - from.y) * move[0])
      // The nearest one that lies rather this way than across it.
      if (along <= 0 || across > 2 * along) continue
      const distance = along + 2 * across
      if (distance < least) [best, least] = [node, distance]
    }
    if (best) onSelect(best.state)
  }
  const release = () => {
    if (drag.current?.moved && held) onPlace(picture.layout.nodes[held.node].key, held.x, held.y)
    drag.current = null
    setHeld(null)
  }

  return (
    <div ref={holder} className="h-full min-h-0 w-full overflow-hidden">
      <canvas
        ref={canvas}
        data-scale={frame.scale}
        data-left={frame.left}
        data-top={frame.top}
        {...BOARD_CANVAS}
        aria-label={label}
        className="touch-none rounded-sm select-none"
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
          const node = nodeAt(event)
          if (node < 0 || event.button !== 0) return
          event.currentTarget.setPointerCapture(event.pointerId)
          drag.current = { node, x: event.clientX, y: event.clientY, moved: false }
          onSelect(picture.layout.nodes[node].state)
        }}
        onPointerMove={(event) => {
          const at = nodeAt(event)
          onHover(at < 0 ? null : picture.layout.nodes[at])
          const grip = drag.current
          if (!grip) return
          if (!grip.moved && Math.hypot(event.clientX - grip.x, event.clientY - grip.y) < TREMBLE) return
          grip.moved = true
          const [x, y] = pointAt(event)
          setHeld({ node: grip.node, x: Math.round(x), y: Math.round(y) })
        }}
        onPointerUp={release}
        onPointerCancel={release}
        onPointerLeave={() => onHover(null)}
      />
    </div>
  )
}
