import { change, remove } from '../../../../server/http/jobs'

interface Context {
  params: Promise<{ job: string }>
}

export async function PATCH(request: Request, { params }: Context) {
  return change(request, (await params).job)
}

export async function DELETE(request: Request, { params }: Context) {
  return remove(request, (await params).job)
}
