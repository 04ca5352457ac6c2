import { changeOfAssignment } from '../../../../../../server/http/classes'

interface Context {
  params: Promise<{ id: string; assignment: string }>
}

export async function PATCH(request: Request, { params }: Context) {
  const { id, assignment } = await params
  return changeOfAssignment(request, id, assignment)
}
