import { restore } from '../../../../../server/http/environments'

export async function POST(_: Request, { params }: { params: Promise<{ id: string }> }) {
  return restore((await params).id)
}
