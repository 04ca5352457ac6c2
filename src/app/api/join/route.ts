import { join, leaveClass } from '../../../server/http/enter'

export function POST(request: Request) {
  return join(request)
}

export function DELETE(request: Request) {
  return leaveClass(request)
}
