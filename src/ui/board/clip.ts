/** A name cut to so many letters, with dots where some are missing. */
export function clip(text: string, length: number): string {
  return text.length > length ? `${text.slice(0, length - 1)}…` : text
}
