import type { AnchorHTMLAttributes } from 'react'

/** What `next/link` is, for a page without a server. */
export default function Link({
  prefetch: _,
  ...props
}: AnchorHTMLAttributes<HTMLAnchorElement> & { prefetch?: boolean }) {
  return <a {...props} />
}
