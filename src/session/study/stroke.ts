let strokes = 0

/** A number for edits that are undone together, which no others on this page have; constants below 0 are free for fields. */
export function newStroke(): number {
  return ++strokes
}
