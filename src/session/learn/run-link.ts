import type { LearnChoice } from '../../core/settings/choice'
import { addressWith, copyAddressWith } from '../address'

/** The part of an address that carries the settings of a run. */
export const RUN = 'run'

/** The address of the page at hand with all settings of a run in it. */
export function runLink(address: string, choice: LearnChoice): string {
  return addressWith(address, { [RUN]: JSON.stringify(choice) })
}

/** The settings that an address asks for; a problem in words when they are not sound. */
export type RunLink = { readonly choice: Partial<LearnChoice> } | { readonly problem: string }

export const copyRunLink = (choice: LearnChoice) => copyAddressWith(RUN, JSON.stringify(choice))
