import { change, remove } from '../../../../server/http/jobs'

interface Context {
  params: Promise<{ job: string }>
}

export async function PATCH(request: Request, { params }: Context) {
  return change((await params).job, request)
}

export async function DELETE(_: Request, { params }: Context) {
  return remove((await params).job)
}
