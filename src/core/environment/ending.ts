/** The ending of a file's name in small letters, with its point. */
export function endingOf(fileName: string): string {
  return /\.[^.]*$/.exec(fileName)?.[0].toLowerCase() ?? ''
}
