import { newHall } from '../../core/kinds/grid/blank'
import { createEnvironment } from '../../session/api/environments'

/** Puts a small hall on the shelf, to begin with. @returns its number */
export async function makeHall(): Promise<string> {
  return (await createEnvironment(JSON.stringify(newHall('New gallery', 10, 7)))).id
}
