/**
 * How messages that carry a model go from one thread to another: the names of its states as one text, which is copied at
 * once, as hundreds of thousands of texts are copied one by one.
 */

/** Models with fewer states are sent as they are. */
const MANY = 1000
const SEPARATOR = '\n'

interface Named {
  readonly labels: readonly string[]
}
interface Sent {
  /** All labels, one after the other. */
  readonly labels: string
}

/** The text of labels that were sent or heard before. */
const TEXTS = new WeakMap<readonly string[], string>()

/** A message as it is posted. */
export function toWire(message: unknown): unknown {
  return withModel(message, (model) => {
    const { labels } = model as Named
    if (!Array.isArray(labels) || labels.length < MANY) return model
    const text = textOf(labels)
    return text === null ? model : { ...model, labels: text }
  })
}

/** A message that was heard, as it was before it was posted. */
export function fromWire(message: unknown): unknown {
  return withModel(message, (model) => {
    const { labels: text } = model as Sent
    if (typeof text !== 'string') return model
    const labels = text.split(SEPARATOR)
    TEXTS.set(labels, text)
    return { ...model, labels }
  })
}

/** @returns null where a label holds what separates them */
function textOf(labels: readonly string[]): string | null {
  const known = TEXTS.get(labels)
  if (known !== undefined) return known
  if (labels.some((label) => label.includes(SEPARATOR))) return null
  const text = labels.join(SEPARATOR)
  TEXTS.set(labels, text)
  return text
}

/** A copy of a message with another model, where it has one: by itself, or in what was compiled. */
function withModel(message: unknown, change: (model: object) => object): unknown {
  if (!isObject(message)) return message
  if ('compiled' in message) return { ...message, compiled: withModel(message.compiled, change) }
  if (!('model' in message) || !isObject(message.model)) return message
  const model = change(message.model)
  return model === message.model ? message : { ...message, model }
}

function isObject(value: unknown): value is object {
  return typeof value === 'object' && value !== null
}

/**
 * A copy of plain data whose arrays of numbers lie in memory that all threads share, so that it costs nothing to send; nobody
 * may change it any more. The data itself where threads share no memory: a page that is not isolated, or no page.
 */
export function shared<T>(data: T): T {
  if (!canShare()) return data
  const copies = new Map<ArrayBufferView, ArrayBufferView>()
  const copy = (value: unknown): unknown => {
    if (!isObject(value)) return value
    if (ArrayBuffer.isView(value)) {
      const known = copies.get(value) ?? sharedArray(value as Numbers)
      copies.set(value, known)
      return known
    }
    if (Array.isArray(value)) return isObject(value[0]) ? value.map(copy) : value
    if (Object.getPrototypeOf(value) !== Object.prototype) return value
    return Object.fromEntries(Object.entries(value).map(([name, each]) => [name, copy(each)]))
  }
  return copy(data) as T
}

export function canShare(): boolean {
  return (globalThis as { crossOriginIsolated?: boolean }).crossOriginIsolated === true
}

type Numbers = Float64Array | Int32Array | Uint8Array

function sharedArray<A extends Numbers>(array: A): A {
  if (array.buffer instanceof SharedArrayBuffer) return array
  const Kind = array.constructor as new (buffer: SharedArrayBuffer) => A
  const copy = new Kind(new SharedArrayBuffer(array.byteLength))
  copy.set(array)
  return copy
}
