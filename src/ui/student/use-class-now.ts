import { useEffect, useState } from 'react'
import type { ClassNow } from '../../server/contract/questions'

/** What goes on in the class, as it changes; a connection that was lost is made anew by the browser itself. */
export function useClassNow(first: ClassNow): ClassNow {
  const [now, setNow] = useState(first)
  useEffect(() => {
    const source = new EventSource('/api/class/events')
    source.onmessage = ({ data }: MessageEvent<string>) => {
      const next = JSON.parse(data) as ClassNow
      setNow((before) => (next.version >= before.version ? next : before))
    }
    return () => source.close()
  }, [])
  return now
}
