import { enter, leave } from '../../../server/http/enter'

export function POST(request: Request) {
  return enter(request)
}

export function DELETE(request: Request) {
  return leave(request)
}
