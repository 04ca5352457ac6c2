/** What a presentation and the speaker's window tell each other. */
export interface SpeakerWord {
  /** The view that is shown, from 0; told by the presentation. */
  readonly at?: number
  /** Its notes, with the numbers that stand in them by name; told by the presentation. */
  readonly notes?: string
  /** What the speaker asks for. */
  readonly go?: 'next' | 'back' | 'again'
  /** Somebody new asks where the presentation is. */
  readonly ask?: true
}

/** The line between the windows of one lesson in a browser; null where there is none. */
export function openSpeakerLine(
  lesson: string,
  hear: (word: SpeakerWord) => void,
): { tell(word: SpeakerWord): void; close(): void } | null {
  if (typeof BroadcastChannel === 'undefined') return null
  const channel = new BroadcastChannel(`jaunty-pawn lesson ${lesson}`)
  channel.onmessage = ({ data }) => hear(data as SpeakerWord)
  return { tell: (word) => channel.postMessage(word), close: () => channel.close() }
}
