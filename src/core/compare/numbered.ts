/** Names that tell each from the others: of equal ones the second is called so. */
export function numbered(names: readonly string[]): string[] {
  return names.map((name, i) => {
    const earlier = names.slice(0, i).filter((other) => other === name).length
    return earlier ? `${name} (${earlier + 1})` : name
  })
}
