import { kindOf, type EnvironmentDocument } from '../kinds/kinds'

/** True when two documents have the same model: plans and runs on one are plans and runs on the other. */
export function sameModel(one: EnvironmentDocument | undefined, other: EnvironmentDocument): boolean {
  return one?.cap === other.cap && one.kind === other.kind && kindOf(one).sameModel(one, other)
}
