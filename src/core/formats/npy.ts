import { refuse } from '../problem'

/**
 * An array of 64-bit floats as a .npy file: the format of NumPy arrays, version 1.0 (NumPy Enhancement Proposal 1).
 * @param shape  its product is the number of values; the last index runs fastest
 * @throws RangeError when the shape does not fit
 */
export function writeNpy(values: Float64Array, shape: readonly number[]): Uint8Array<ArrayBuffer> {
  if (shape.reduce((product, size) => product * size, 1) !== values.length)
    throw new RangeError(`${values.length} values have no shape of ${shape.join(' x ')}.`)
  return npyFile('<f8', shape, 8 * values.length, (view) => {
    for (let i = 0; i < values.length; i++) view.setFloat64(8 * i, values[i], true)
  })
}

/** Whole numbers as a .npy file of 32-bit integers. */
export function writeNpyInts(values: ArrayLike<number>): Uint8Array<ArrayBuffer> {
  return npyFile('<i4', [values.length], 4 * values.length, (view) => {
    for (let i = 0; i < values.length; i++) view.setInt32(4 * i, values[i], true)
  })
}

/** Texts as a .npy file, all of them as long as the longest: each character takes four bytes. */
export function writeNpyTexts(texts: readonly string[]): Uint8Array<ArrayBuffer> {
  const letters = texts.map((text) => [...text].map((letter) => letter.codePointAt(0)!))
  const longest = letters.reduce((most, { length }) => Math.max(most, length), 1)
  return npyFile(`<U${longest}`, [texts.length], 4 * longest * texts.length, (view) =>
    letters.forEach((points, i) =>
      points.forEach((point, k) => view.setUint32(4 * (longest * i + k), point, true)),
    ),
  )
}

/** @param write  fills what comes after the head */
function npyFile(
  type: string,
  shape: readonly number[],
  size: number,
  write: (view: DataView) => void,
): Uint8Array<ArrayBuffer> {
  const tuple = shape.length === 1 ? `(${shape[0]},)` : `(${shape.join(', ')})`
  const text = `{'descr': '${type}', 'fortran_order': False, 'shape': ${tuple}, }`
  // Magic, version, length of the head, and the head filled up with spaces to a multiple of 64, a line feed last.
  const head = text.padEnd(64 * Math.ceil((10 + text.length + 1) / 64) - 10 - 1) + '\n'
  const bytes = new Uint8Array(10 + head.length + size)
  bytes.set([
    0x93,
    ...[...'NUMPY'].map((char) => char.charCodeAt(0)),
    1,
    0,
    head.length & 255,
    head.length >> 8,
  ])
  for (let i = 0; i < head.length; i++) bytes[10 + i] = head.charCodeAt(i)
  write(new DataView(bytes.buffer, 10 + head.length))
  return bytes
}

/**
 * Reads a .npy file of numbers: 64- or 32-bit floats or integers up to 64 bits, little-endian, in C order.
 * @param fileName  for messages
 * @throws ProblemError when it is none, or one of another kind
 */
export function readNpy(
  bytes: Uint8Array,
  fileName: string,
): { readonly values: Float64Array; readonly shape: readonly number[] } {
  const bad = (cause: string) =>
    refuse(fileName, cause, 'Save the array again as 64-bit floats, with numpy.save.')
  if (bytes.length < 12 || bytes[0] !== 0x93 || String.fromCharCode(...bytes.subarray(1, 6)) !== 'NUMPY')
    bad('It is no .npy file.')
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const wide = bytes[6] > 1
  const begin = wide ? 12 : 10
  const length = wide ? view.getUint32(8, true) : view.getUint16(8, true)
  if (begin + length > bytes.length) bad('Its head is cut short.')
  const head = String.fromCharCode(...bytes.subarray(begin, begin + length))
  const type = /'descr':\s*'([^']+)'/.exec(head)?.[1] ?? ''
  const reader = NUMBERS[type]
  if (!reader) bad(`Its numbers are of the kind "${type}".`)
  if (!/'fortran_order':\s*False/.test(head)) bad('It is stored in column order.')
  const shape = (/'shape':\s*\(([^)]*)\)/.exec(head)?.[1] ?? '').split(',').flatMap((size) => {
    return size.trim() === '' ? [] : [Number(size)]
  })
  if (shape.length < 1 || shape.length > 2 || shape.some((size) => !Number.isInteger(size) || size < 0))
    bad('It is no list or table of numbers.')
  const count = shape.reduce((product, size) => product * size, 1)
  const { size, read } = reader!
  if (bytes.length < begin + length + count * size) bad('It ends before its last number.')
  const values = Float64Array.from({ length: count }, (_, i) => read(view, begin + length + i * size))
  return { values, shape }
}

const NUMBERS: Record<string, { size: number; read(view: DataView, at: number): number } | undefined> = {
  '<f8': { size: 8, read: (view, at) => view.getFloat64(at, true) },
  '<f4': { size: 4, read: (view, at) => view.getFloat32(at, true) },
  '<i8': { size: 8, read: (view, at) => Number(view.getBigInt64(at, true)) },
  '<i4': { size: 4, read: (view, at) => view.getInt32(at, true) },
}
