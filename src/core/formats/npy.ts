/**
 * An array of 64-bit floats as a .npy file: the format of NumPy arrays, version 1.0 (NumPy Enhancement Proposal 1).
 * @param shape  its product is the number of values; the last index runs fastest
 * @throws RangeError when the shape does not fit
 */
export function writeNpy(values: Float64Array, shape: readonly number[]): Uint8Array<ArrayBuffer> {
  if (shape.reduce((product, size) => product * size, 1) !== values.length)
    throw new RangeError(`${values.length} values have no shape of ${shape.join(' x ')}.`)
  const tuple = shape.length === 1 ? `(${shape[0]},)` : `(${shape.join(', ')})`
  const text = `{'descr': '<f8', 'fortran_order': False, 'shape': ${tuple}, }`
  // Magic, version, length of the head, and the head filled up with spaces to a multiple of 64, a line feed last.
  const head = text.padEnd(64 * Math.ceil((10 + text.length + 1) / 64) - 10 - 1) + '\n'
  const bytes = new Uint8Array(10 + head.length + 8 * values.length)
  bytes.set([
    0x93,
    ...[...'NUMPY'].map((char) => char.charCodeAt(0)),
    1,
    0,
    head.length & 255,
    head.length >> 8,
  ])
  for (let i = 0; i < head.length; i++) bytes[10 + i] = head.charCodeAt(i)
  const view = new DataView(bytes.buffer, 10 + head.length)
  for (let i = 0; i < values.length; i++) view.setFloat64(8 * i, values[i], true)
  return bytes
}
