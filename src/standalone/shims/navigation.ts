/** What `next/navigation` is, for a page without a server: there is nowhere to go. */
export function useRouter() {
  return { push() {}, refresh() {} }
}
