import { afterEach, describe, expect, it, vi } from 'vitest'
import { rulebookEnvironment } from '../core/kinds/rulebook/blank'
import { compileEnvironment } from '../core/environment/compile'
import { CompileHost } from './compile-host'
import { REAL_CLOCK } from './host'
import { fromWire, shared, toWire } from './wire'
import type { CompileReply } from './protocol/compile'

const named = (labels: readonly string[]) => ({
  type: 'open',
  session: 3,
  model: { labels, states: labels.length },
})
const many = Array.from({ length: 1500 }, (_, s) => (s === 7 ? '' : `room ${s}, a ≥ ½`))
const heard = (message: unknown) => fromWire(structuredClone(toWire(message)))

afterEach(() => vi.unstubAllGlobals())

describe('a message with a model', () => {
  it('is heard as it was posted, by itself or in what was compiled', () => {
    for (const message of [
      named(many),
      named(['hall', 'attic']),
      { type: 'compiled', session: 1, compiled: { ...named(many), kind: 'table' } },
      { type: 'open', model: null },
      { type: 'pause' },
    ])
      expect(heard(message)).toEqual(message)
  })

  it('is sent with one text for all names, which is kept for the next thread', () => {
    const sent = toWire(named(many)) as { model: { labels: string } }
    expect(sent.model.labels).toBe(many.join('\n'))
    const again = toWire(heard(named(many))) as { model: { labels: string } }
    expect(again.model.labels).toBe(sent.model.labels)
  })

  it('is sent as it is where a name has lines', () => {
    const lines = many.map((name, s) => (s === 900 ? 'two\nlines' : name))
    expect(toWire(named(lines))).toEqual(named(lines))
    expect(heard(named(lines))).toEqual(named(lines))
  })
})

describe('shared memory', () => {
  const document = rulebookEnvironment(
    'long',
    'state a from 0 to 30000\nstart a = 0\naction go\nnext a = min(30000, a + 1)\nreward 1\nend when a = 30000',
  )

  it('holds the same numbers, and the same array once', () => {
    vi.stubGlobal('crossOriginIsolated', true)
    const { model } = compileEnvironment(
      rulebookEnvironment(
        'two',
        'state a from 0 to 1\nstart a = 0\naction go\nnext a = 1\nreward 1\nend when a = 1',
      ),
    )
    const twice = { one: { model }, other: [model, null], flags: [1, 2] }
    const copy = shared(twice)
    expect(copy).toEqual(twice)
    expect(copy.one.model.outcomeState.buffer).toBeInstanceOf(SharedArrayBuffer)
    expect((copy.other[0] as typeof model).outcomeState).toBe(copy.one.model.outcomeState)
    expect(structuredClone(copy).one.model.rowStart.buffer).toBeInstanceOf(SharedArrayBuffer)
  })

  it('is used for large models where the page is isolated; else they are handed over', async () => {
    const told = async () => {
      const said: { reply: CompileReply; transfer: readonly Transferable[] }[] = []
      const host = CompileHost.create(
        (reply, transfer = []) => void said.push({ reply, transfer }),
        REAL_CLOCK,
      )
      host.hear({ type: 'compile', session: 1, has: null, document })
      await vi.waitFor(() => expect(said.some(({ reply }) => reply.type === 'ways')).toBe(true), {
        timeout: 30_000,
      })
      const { reply, transfer } = said.find(({ reply }) => reply.type === 'compiled')!
      if (reply.type !== 'compiled') throw new Error()
      expect(reply.compiled.model.outcomeState.at(-1)).toBe(30000)
      expect(said.find(({ reply }) => reply.type === 'ways')!.reply).toMatchObject({
        ways: { starts: [0], steps: [30000] },
      })
      return { buffer: reply.compiled.model.outcomeState.buffer, transfer }
    }
    const plain = await told()
    expect(plain.transfer).toContain(plain.buffer)
    vi.stubGlobal('crossOriginIsolated', true)
    const isolated = await told()
    expect(isolated.buffer).toBeInstanceOf(SharedArrayBuffer)
    expect(isolated.transfer).toEqual([])
  })
})
