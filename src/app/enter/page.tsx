import type { Metadata } from 'next'
import { EnterPage } from '../../ui/class/EnterPage'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Enter' }

export default function Enter() {
  return <EnterPage />
}
