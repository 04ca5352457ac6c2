import { exponential } from './exponential'
import type { RandomStream } from './generator'
import { logarithm } from './logarithm'

/** Layers under the density, all of one area; the tail beyond EDGE belongs to the lowest. */
const LAYERS = 256
const EDGE = 3.6541528853610088
const AREA = 0.00492867323399

/** [layers + 1] how far each layer reaches; the lowest one as if its tail were part of a box. */
export const REACH = (() => {
  const reach = new Float64Array(LAYERS + 1)
  let height = exponential(-0.5 * EDGE * EDGE)
  reach[0] = AREA / height
  reach[1] = EDGE
  for (let i = 2; i < LAYERS; i++) {
    reach[i] = Math.sqrt(-2 * logarithm(AREA / reach[i - 1] + height))
    height = exponential(-0.5 * reach[i] * reach[i])
  }
  return reach
})()
/** [layers] size of a number below which it lies under the density whatever its height */
export const INSIDE = Float64Array.from({ length: LAYERS }, (_, i) => (REACH[i + 1] / REACH[i]) * 2147483648)
/** [layers] turns a signed 32-bit number into one of the layer */
export const SCALE = Float64Array.from({ length: LAYERS }, (_, i) => REACH[i] / 2147483648)

/**
 * A standard normal number from a stream, the same bits on every machine.
 * Method: the ziggurat of 256 layers (Marsaglia & Tsang 2000), with a number of its own for the layer (Doornik 2005).
 */
export function gaussian(stream: RandomStream): number {
  for (;;) {
    const drawn = stream.next()
    const layer = stream.next() & (LAYERS - 1)
    const x = drawn * SCALE[layer]
    if (Math.abs(drawn) < INSIDE[layer]) return x
    if (layer === 0) {
      const tail = beyondEdge(stream)
      return drawn < 0 ? -tail : tail
    }
    const low = exponential(-0.5 * (REACH[layer] * REACH[layer] - x * x))
    const high = exponential(-0.5 * (REACH[layer + 1] * REACH[layer + 1] - x * x))
    if (high + stream.uniform() * (low - high) < 1) return x
  }
}

/** A number of the tail (Marsaglia 1964). */
function beyondEdge(stream: RandomStream): number {
  for (;;) {
    const x = logarithm(stream.uniform() + 2 ** -33) / EDGE
    const y = logarithm(stream.uniform() + 2 ** -33)
    if (-2 * y >= x * x) return EDGE - x
  }
}
