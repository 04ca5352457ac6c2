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
