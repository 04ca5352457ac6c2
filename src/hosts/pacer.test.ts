import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Pacer } from './pacer'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

function make(total = Infinity) {
  const done = { units: 0, frames: 0 }
  const pacer: Pacer = new Pacer(
    (count) => {
      const did = Math.min(count, 1000, total - done.units)
      done.units += did
      return did
    },
    () => {
      done.frames++
    },
  )
  return { pacer, done }
}

describe('Pacer', () => {
  it('keeps to the speed', async () => {
    const { pacer, done } = make()
    pacer.run(10)
    await vi.advanceTimersByTimeAsync(5000)
    expect(done.units).toBeGreaterThanOrEqual(49)
    expect(done.units).toBeLessThanOrEqual(52)
  })

  it('sends no second frame before the first was shown, and works on meanwhile', async () => {
    const { pacer, done } = make()
    pacer.run('flat out')
    await vi.advanceTimersByTimeAsync(500)
    expect(done.frames).toBe(1)
    const before = done.units
    pacer.acknowledge()
    await vi.advanceTimersByTimeAsync(100)
    expect(done.frames).toBe(2)
    expect(done.units).toBeGreaterThan(before)
  })

  it('stops when nothing is left, and sends what there is', async () => {
    const { pacer, done } = make(2500)
    pacer.run('flat out')
    await vi.advanceTimersByTimeAsync(200)
    expect(done.units).toBe(2500)
    expect(pacer.running).toBe(false)
    pacer.acknowledge()
    expect(done.frames).toBe(2)
  })

  it('stops at a pause, and does not run twice as fast when told to run twice', async () => {
    const { pacer, done } = make()
    pacer.run(10)
    pacer.run(10)
    await vi.advanceTimersByTimeAsync(1000)
    expect(done.units).toBeLessThanOrEqual(13)
    pacer.pause()
    const before = done.units
    await vi.advanceTimersByTimeAsync(1000)
    expect(done.units).toBe(before)
  })
})
