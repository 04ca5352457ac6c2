// Two exponentials at once, to the bits of core/random/exponential.ts. Taken in by scripts/wasm.mjs where a kernel imports it.

/** Constants of the exponential, each twice: a pair is quicker to read than to make. */
export const PAIRS: usize = memory.data<f64>([
  1.442695040888963387, 1.442695040888963387, 6.9314718036912381649e-1, 6.9314718036912381649e-1,
  1.90821492927058770002e-10, 1.90821492927058770002e-10, 4.13813679705723846039e-8, 4.13813679705723846039e-8,
  -1.6533902205465251539e-6, -1.6533902205465251539e-6, 6.61375632143793436117e-5, 6.61375632143793436117e-5,
  -2.77777777770155933842e-3, -2.77777777770155933842e-3, 1.66666666666666019037e-1, 1.66666666666666019037e-1,
  0.5, 0.5, 1, 1, 2, 2, 6755399441055744, 6755399441055744, -708, -708,
])

/** Two at once, both from -708 to 0. */
@inline export function exponentials(x: v128): v128 {
  const scaled = f64x2.mul(x, v128.load(PAIRS))
  const up = f64x2.ceil(scaled)
  const k = f64x2.sub(up, v128.and(f64x2.gt(f64x2.sub(up, v128.load(PAIRS, 128)), scaled), v128.load(PAIRS, 144)))
  const high = f64x2.sub(x, f64x2.mul(k, v128.load(PAIRS, 16)))
  const low = f64x2.mul(k, v128.load(PAIRS, 32))
  const r = f64x2.sub(high, low)
  const t = f64x2.mul(r, r)
  let sum = f64x2.add(v128.load(PAIRS, 64), f64x2.mul(t, v128.load(PAIRS, 48)))
  sum = f64x2.add(v128.load(PAIRS, 80), f64x2.mul(t, sum))
  sum = f64x2.add(v128.load(PAIRS, 96), f64x2.mul(t, sum))
  sum = f64x2.add(v128.load(PAIRS, 112), f64x2.mul(t, sum))
  const c = f64x2.sub(r, f64x2.mul(t, sum))
  const part = f64x2.div(f64x2.mul(r, c), f64x2.sub(v128.load(PAIRS, 160), c))
  const mantissa = f64x2.sub(v128.load(PAIRS, 144), f64x2.sub(f64x2.sub(low, part), high))
  // The last bits of k + 1.5 x 2^52 are k as a whole number.
  const whole = f64x2.add(k, v128.load(PAIRS, 176))
  return f64x2.mul(mantissa, i64x2.shl(i64x2.add(whole, i64x2.splat(1023)), 52))
}
