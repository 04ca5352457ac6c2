import { create } from '../../../../../../server/http/student'

interface Context {
  params: Promise<{ assignment: string }>
}

export async function POST(request: Request, { params }: Context) {
  return create(request, (await params).assignment)
}
