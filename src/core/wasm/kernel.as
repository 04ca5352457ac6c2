// What kernels have in common: their registers, numbers in their memory, and draws. Taken in by scripts/wasm.mjs where a kernel
// imports it.

/** The register of a whole number, or of an address. */
@inline export function int(at: usize, index: usize): i32 { return load<i32>(at + (index << 2)) }
@inline export function put(at: usize, index: usize, value: i32): void { store<i32>(at + (index << 2), value) }
/** The register of a number. */
@inline export function real(at: usize, index: usize): f64 { return load<f64>(at + 256 + (index << 3)) }
@inline export function putReal(at: usize, index: usize, value: f64): void { store<f64>(at + 256 + (index << 3), value) }

/** Entries of arrays. */
@inline export function intAt(base: usize, index: i32): i32 { return load<i32>(base + ((<usize>index) << 2)) }
@inline export function putInt(base: usize, index: i32, value: i32): void { store<i32>(base + ((<usize>index) << 2), value) }
@inline export function realAt(base: usize, index: i32): f64 { return load<f64>(base + ((<usize>index) << 3)) }
@inline export function putAt(base: usize, index: i32, value: f64): void { store<f64>(base + ((<usize>index) << 3), value) }

/** The next number of the stream whose four words are there: as core/random/generator.ts. */
@inline export function draw(words: usize): u32 {
  const a = load<u32>(words)
  const b = load<u32>(words, 4)
  const c = load<u32>(words, 8)
  const counter = load<u32>(words, 12)
  const sum = a + b + counter
  store<u32>(words, counter + 1, 12)
  store<u32>(words, b ^ (b >>> 9))
  store<u32>(words, c + (c << 3), 4)
  store<u32>(words, ((c << 21) | (c >>> 11)) + sum, 8)
  return sum
}

/** One of `count` by a draw. */
@inline export function below(drawn: u32, count: i32): i32 { return <i32>((<u64>drawn * <u64>count) >> 32) }

/** One of several best rows, each as likely. */
@inline export function breakTie(ties: usize, values: usize, row: i32, equals: i32, top: f64): i32 {
  for (let skip = below(draw(ties), equals); skip > 0; skip--) {
    do { row++ } while (realAt(values, row) != top)
  }
  return row
}

/** As core/random/exponential.ts. */
export function exponential(x: f64): f64 {
  if (x < -708) return 0
  if (x > 709) return Infinity
  if (x != x) return x
  const scaled = x * 1.442695040888963387
  const up = ceil<f64>(scaled)
  const k = up - (up - 0.5 > scaled ? 1.0 : 0.0)
  const high = x - k * 6.9314718036912381649e-1
  const low = k * 1.90821492927058770002e-10
  const r = high - low
  const t = r * r
  const c = r - t * (1.66666666666666019037e-1 + t * (-2.77777777770155933842e-3 + t * (6.61375632143793436117e-5 + t * (-1.6533902205465251539e-6 + t * 4.13813679705723846039e-8))))
  return (1 - (low - (r * c) / (2 - c) - high)) * reinterpret<f64>((<i64>k + 1023) << 52)
}

/** As core/random/logarithm.ts. */
export function logarithm(x: f64): f64 {
  if (!(x > 0)) return NaN
  if (x == Infinity) return Infinity
  let part = x
  let doublings: i32 = 0
  for (; part >= 1.4; part /= 2) doublings++
  for (; part < 0.7; part *= 2) doublings--
  let y = (2 * (part - 1)) / (part + 1)
  for (let i = 0; i < 3; i++) {
    const power = exponential(y)
    y += (2 * (part - power)) / (part + power)
  }
  return y + <f64>doublings * 0.6931471805599453
}
