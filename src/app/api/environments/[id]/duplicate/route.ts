import { duplicate } from '../../../../../server/http/environments'

export async function POST(_: Request, { params }: { params: Promise<{ id: string }> }) {
  return duplicate((await params).id)
}
