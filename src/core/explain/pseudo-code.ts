/** A line of a method as one would write it on the board. */
export interface PseudoLine {
  readonly text: string
  readonly indent: number
  /** What goes on when this is the line at hand; most lines stand there for reading only. */
  readonly at?: string
}

/**
 * Pseudo-code from a few lines of text: two spaces indent, and `@name` at the end says when the line is lit.
 * @example pseudoCode(`repeat
 *   V(s) ← max … @optimise`)
 */
export function pseudoCode(text: string): readonly PseudoLine[] {
  return text
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => {
      const [, spaces, words, at] = /^( *)(.*?)(?:\s+@([\w-]+))?$/.exec(line)!
      return { text: words, indent: spaces.length / 2, at }
    })
}
