/**
 * What a study can show, by name. What each of them is stands with what draws it: `STAGES`, `VIEWS` and `LAYERS` in
 * the interface, which do not compile while one is missing.
 */
export const STAGE_NAMES = ['build', 'check', 'plan', 'learn', 'compare'] as const
export type Stage = (typeof STAGE_NAMES)[number]

/** The ways to look at an environment. */
export const VIEW_NAMES = [
  'board',
  'table',
  'text',
  'curve',
  'horizon',
  'landscape',
  'agents',
  'comparison',
] as const
export type View = (typeof VIEW_NAMES)[number]

/** What can lie over a board. */
export const LAYER_NAMES = [
  'values',
  'policy',
  'actionValues',
  'visits',
  'changes',
  'difference',
  'distance',
  'traces',
] as const
export type Layer = (typeof LAYER_NAMES)[number]

export function isStage(name: unknown): name is Stage {
  return (STAGE_NAMES as readonly unknown[]).includes(name)
}
