import type { Metadata } from 'next'
import { JoinPage } from '../../../ui/class/JoinPage'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Enter your class' }

export default async function Join({ params }: { params: Promise<{ code?: string[] }> }) {
  const [code = ''] = (await params).code ?? []
  return <JoinPage code={code.slice(0, 12)} />
}
