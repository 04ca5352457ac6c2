import { listen } from '../class-events'
import type { ClassNow } from '../contract/questions'
import { problemAnswer } from './answers'

/** Streams that one student may have open: pages in several tabs, and old ones that are about to end. */
const MOST_STREAMS = 6
/** How often something is sent where nothing happens, so that nobody between takes the connection for dead, in milliseconds. */
const BEAT = 20_000

// Next.js loads server modules more than once.
const shared = globalThis as {
  jauntyPawnStreams?: Map<string, number>
  /** What ends each stream, with the class that it tells of. */
  jauntyPawnStreamEnds?: Map<() => void, string>
  jauntyPawnEndStreams?: () => void
}
const streamEnds = () => (shared.jauntyPawnStreamEnds ??= new Map<() => void, string>())

/** Ends the streams of a class, or all: whoever may come again comes again by itself. */
export function endStreams(classId?: string): void {
  for (const [end, of] of streamEnds()) if (classId === undefined || of === classId) end()
}

/** What goes on in a class, at once and whenever it changes. Whoever lost the network gets it anew by coming again. */
export function eventStream(student: string, classId: string, now: ClassNow): Response {
  const open = (shared.jauntyPawnStreams ??= new Map())
  const number = open.get(student) ?? 0
  if (number >= MOST_STREAMS)
    return problemAnswer(429, {
      place: 'streams',
      cause: `${MOST_STREAMS} pages of yours are open.`,
      remedy: 'Close some of them.',
    })
  open.set(student, number + 1)
  let end = () => {}
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string) => controller.enqueue(encoder.encode(text))
      const tell = (each: ClassNow) => send(`id: ${each.version}\ndata: ${textOf(each)}\n\n`)
      tell(now)
      const stop = listen(classId, tell)
      const timer = setInterval(() => send(':\n\n'), BEAT)
      end = () => {
        if (!streamEnds().delete(end)) return
        stop()
        clearInterval(timer)
        const left = (open.get(student) ?? 1) - 1
        if (left) open.set(student, left)
        else open.delete(student)
        try {
          controller.close()
        } catch {
          // Whoever listened has gone.
        }
      }
      streamEnds().set(end, classId)
    },
    cancel: () => end(),
  })
  shared.jauntyPawnEndStreams = endStreams
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  })
}

const encoder = new TextEncoder()
/** The same text for all who listen. */
const texts = new WeakMap<ClassNow, string>()

function textOf(now: ClassNow): string {
  let text = texts.get(now)
  if (text === undefined) texts.set(now, (text = JSON.stringify(now)))
  return text
}
