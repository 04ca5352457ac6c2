'use client'

import { useEffect, useState } from 'react'
import { readPicture } from '../../session/api/student'

/** Pictures that were asked for, by address: several parts of a page show the same one. */
const asked = new Map<string, Promise<string>>()

/** The picture of a board, over the whole of what it lies in; in the page itself, so that it has its colours. */
export function BoardPicture({ address }: { address: string }) {
  const [svg, setSvg] = useState('')
  useEffect(() => {
    if (!asked.has(address)) asked.set(address, readPicture(address))
    let current = true
    asked.get(address)!.then(
      (picture) => current && setSvg(picture),
      // Without its picture the board can be drawn on all the same; the next one who wants it asks again.
      () => asked.delete(address),
    )
    return () => {
      current = false
    }
  }, [address])
  return (
    <div
      aria-hidden
      className="absolute inset-0 [&_svg]:block [&_svg]:size-full"
      dangerouslySetInnerHTML={{ __html: svg }}
    />
  )
}
