import { picture } from '../../../../../server/http/environments'
import { thumbnail } from '../../../../../ui/kinds/thumbnails'

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  return picture((await params).id, thumbnail)
}
