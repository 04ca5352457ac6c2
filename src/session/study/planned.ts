/** In the address of an environment: in Build its plan lies over the board from the first picture on. */
export const PLANNED = 'planned'

/** Where an environment that was just made is opened. */
export function addressOfNew(id: string): string {
  return `/environment/${id}/build?${PLANNED}`
}
