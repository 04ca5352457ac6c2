import { learnMethod, type LearnMethodId } from '../learn/methods/methods'
import { LEARN_DEFAULTS, type LearnSettings } from './settings'

/**
 * Settings as they stand in links, files and documents: all of a run but what it runs on; the policy that a prediction
 * method follows is named, as it is another one on another model.
 */
export type LearnChoice = Omit<LearnSettings, 'policy'> & {
  readonly method: LearnMethodId
  /** Where a policy that is followed comes from, by name. */
  readonly source: string
}

/** A choice of an earlier version, with what a run begins with in place of settings that did not exist then. */
export function completeChoice(choice: LearnChoice): LearnChoice {
  const { policy: _policy, ...defaults } = LEARN_DEFAULTS
  return { ...defaults, ...choice }
}

/**
 * The settings that a learner is given for a choice.
 * @param find  finds the policy that a source names
 */
export function settingsOf(
  { method, source, ...settings }: LearnChoice,
  find: (source: string) => LearnSettings['policy'],
): LearnSettings {
  const follows = learnMethod(method).settings.includes('policy')
  return { ...settings, policy: follows ? find(source) : null }
}

/** Whether values are learned beside the preferences: a baseline may be of another kind. */
export function usesCritic({ method, baseline }: LearnChoice): boolean {
  const { settings } = learnMethod(method)
  return settings.includes('criticRate') && (!settings.includes('baseline') || baseline.kind === 'learned')
}
