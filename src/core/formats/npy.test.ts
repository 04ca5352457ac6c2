import { expect, it } from 'vitest'
import { gridModel } from '../testing/models'
import { writeNpy } from './npy'
import { TABLE_EXPORTS } from './tables'

/** Reads the format as its specification says, independently of how it was written. */
function readNpy(bytes: Uint8Array): { shape: number[]; values: number[] } {
  const text = new TextDecoder('latin1').decode(bytes)
  expect(text.slice(0, 8)).toBe('\x93NUMPY\x01\x00')
  const length = bytes[8] + 256 * bytes[9]
  expect((10 + length) % 64).toBe(0)
  const head = text.slice(10, 10 + length)
  expect(head.endsWith('\n')).toBe(true)
  const [, shape] = /^\{'descr': '<f8', 'fortran_order': False, 'shape': \(([\d, ]*)\), \} *\n$/.exec(head)!
  const view = new DataView(bytes.buffer, bytes.byteOffset + 10 + length)
  return {
    shape: shape
      .split(',')
      .filter((part) => part.trim())
      .map(Number),
    values: Array.from({ length: view.byteLength / 8 }, (_, i) => view.getFloat64(8 * i, true)),
  }
}

it('writes arrays of one and two dimensions', () => {
  expect(readNpy(writeNpy(Float64Array.of(1.5, -0.1, NaN), [3]))).toEqual({
    shape: [3],
    values: [1.5, -0.1, NaN],
  })
  expect(readNpy(writeNpy(Float64Array.of(1, 2, 3, 4, 5, 6), [2, 3]))).toEqual({
    shape: [2, 3],
    values: [1, 2, 3, 4, 5, 6],
  })
  expect(() => writeNpy(Float64Array.of(1, 2), [3])).toThrow(/no shape of 3/)
})

it('gives every table with its states and actions in the order of the model', () => {
  const model = gridModel(['...'], {
    starts: [{ at: 'A1', weight: 1 }],
    endings: [{ at: 'C1', reward: 10, name: '' }],
  })
  const numbers = {
    values: Float64Array.of(7.1, 9, 0),
    rowValues: Float64Array.from({ length: 8 }, (_, i) => i),
    policy: Float64Array.of(0, 1, 0, 0, 0, 1, 0, 0),
    discount: 0.9,
  }
  const written = Object.fromEntries(TABLE_EXPORTS.map(({ title, write }) => [title, write(model, numbers)]))
  expect(written['Values (CSV)']).toBe('state,value\r\nA1,7.1\r\nB1,9\r\nC1,0\r\n')
  expect(readNpy(written['Values (.npy)'] as Uint8Array)).toEqual({ shape: [3], values: [7.1, 9, 0] })
  expect(readNpy(written['Action values (.npy)'] as Uint8Array)).toEqual({
    shape: [3, 4],
    values: [0, 1, 2, 3, 4, 5, 6, 7, NaN, NaN, NaN, NaN],
  })
  expect(String(written['Policy (CSV)']).split('\r\n').slice(0, 3)).toEqual([
    'state,action,chance',
    'A1,north,0',
    'A1,east,1',
  ])
  expect(readNpy(written['Policy (.npy)'] as Uint8Array).values.slice(4, 9)).toEqual([0, 1, 0, 0, NaN])
})
