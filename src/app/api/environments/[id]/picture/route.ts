import { picture } from '../../../../../server/http/environments'
import { thumbnail } from '../../../../../ui/kinds/thumbnails'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return picture(request, (await params).id, thumbnail)
}
