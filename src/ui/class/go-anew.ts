/** Loads a page as a whole: all that was loaded before was for somebody else. */
export function goAnew(address: string): void {
  window.location.href = address
}
