import type { EnvironmentDocument } from '../../core/kinds/kinds'
import type { ClassSummary } from '../../server/contract/classes'
import type { Shown } from '../../server/contract/questions'
import { send } from './send'

const address = (classId: string) => `/api/classes/${classId}/following`

/** The classes that are open. */
export async function openClasses(): Promise<ClassSummary[]> {
  const all = (await (await send('/api/classes')).json()) as ClassSummary[]
  return all.filter(({ code }) => code !== null)
}

/** Lets a class follow an environment. @returns the name by which it is followed. @throws ProblemError */
export async function letFollow(
  classId: string,
  document: EnvironmentDocument,
  shown: Shown,
): Promise<string> {
  const answer = await send(address(classId), { method: 'PUT', body: JSON.stringify({ document, shown }) })
  return ((await answer.json()) as { document: string }).document
}

/** What is shown of it now. @throws StaleError where the class follows something else */
export async function showFollowed(classId: string, document: string, shown: Shown): Promise<void> {
  await send(address(classId), { method: 'PATCH', body: JSON.stringify({ document, shown }) })
}

export async function endFollowing(classId: string): Promise<void> {
  await send(address(classId), { method: 'DELETE' })
}

/** The environment that students follow. */
export async function readFollowed(name: string): Promise<EnvironmentDocument> {
  return (await send(`/api/class/following/${name}`)).json()
}
