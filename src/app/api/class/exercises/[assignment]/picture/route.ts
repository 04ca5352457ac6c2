import { picture } from '../../../../../../server/http/student'
import { thumbnail } from '../../../../../../ui/kinds/thumbnails'

interface Context {
  params: Promise<{ assignment: string }>
}

export async function GET(request: Request, { params }: Context) {
  return picture(request, (await params).assignment, thumbnail)
}
