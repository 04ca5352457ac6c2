/** Hands a text to the browser as a file. */
export function downloadText(name: string, text: string, type: string): void {
  downloadBlob(name, new Blob([text], { type: `${type};charset=utf-8` }))
}

/** Hands anything to the browser as a file. */
export function downloadBlob(name: string, blob: Blob): void {
  const address = URL.createObjectURL(blob)
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
  URL.revokeObjectURL(address)
}

/** A file name from an environment's name: letters and digits of any script, with hyphens between. */
export function fileName(name: string, ending: string): string {
  const stem = name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60)
  return `${stem || 'environment'}${ending}`
}
