/** A file name from an environment's name: letters and digits of any script, with hyphens between. */
export function fileName(name: string, ending: string): string {
  const stem = name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60)
  return `${stem || 'environment'}${ending}`
}
