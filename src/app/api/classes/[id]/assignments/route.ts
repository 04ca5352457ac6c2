import { createAssignment } from '../../../../../server/http/classes'

interface Context {
  params: Promise<{ id: string }>
}

export async function POST(request: Request, { params }: Context) {
  return createAssignment(request, (await params).id)
}
