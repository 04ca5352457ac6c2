import { refuse } from '../problem'

/** The largest file read at all, in bytes. */
const FILE_LIMIT = 256 * 1024 * 1024
/** The longest line of a CSV or a rulebook, in characters: no real row comes near. */
const LINE_LIMIT = 100_000

/**
 * The text of a file: UTF-8 with or without a byte-order mark.
 * @throws ProblemError for an empty file, another encoding or a file that is not text
 */
export function decodeText(bytes: Uint8Array): string {
  if (bytes.length > FILE_LIMIT)
    refuse(
      'file',
      `It has ${Math.round(bytes.length / 1e6)} MB.`,
      `Files up to ${FILE_LIMIT / 1024 / 1024} MB are read.`,
    )
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff))
    refuse('byte 1', 'The file is written in UTF-16.', 'Save it as UTF-8.')
  const zero = bytes.indexOf(0)
  if (zero >= 0)
    refuse(
      `byte ${zero + 1}`,
      'There is a zero byte, so this is not a text file.',
      'Choose a .json or .csv file.',
    )
  let text: string
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return refuse(
      `byte ${firstBadByte(bytes) + 1}`,
      'This is not UTF-8 text.',
      'Choose a .json or .csv file, saved as UTF-8.',
    )
  }
  if (text.trim() === '')
    refuse('file', 'It is empty.', 'Choose a file that holds an environment or a transition list.')
  return text
}

/** @throws ProblemError for a line no sane file has, before a parser spends its time on it */
export function refuseLongLines(text: string): void {
  let line = 1
  for (let from = 0; from < text.length; line++) {
    const end = text.indexOf('\n', from)
    const length = (end < 0 ? text.length : end) - from
    if (length > LINE_LIMIT)
      refuse(
        `line ${line}`,
        `It is ${length} characters long.`,
        `A line may have ${LINE_LIMIT}; check that the file has line ends and is a transition list.`,
      )
    if (end < 0) return
    from = end + 1
  }
}

/** Halves the file until the first byte that breaks UTF-8 is found, give or take the length of one character. */
function firstBadByte(bytes: Uint8Array): number {
  const decodes = (end: number) => {
    try {
      // A cut character at the end is no fault: up to three bytes may be missing.
      for (let cut = 0; cut < 4; cut++)
        try {
          new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(0, Math.max(0, end - cut)))
          return true
        } catch (error) {
          if (cut === 3) throw error
        }
      return true
    } catch {
      return false
    }
  }
  let good = 0
  let bad = bytes.length
  while (bad - good > 1) {
    const middle = (good + bad) >> 1
    if (decodes(middle)) good = middle
    else bad = middle
  }
  return Math.max(0, bad - 4)
}
