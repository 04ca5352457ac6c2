import type { Model } from '../model/model'

/** The actions a policy picks, joined by `|`, with their chances where there are several. */
export function picked(
  model: Model,
  state: number,
  policy: Float64Array,
  write: (action: string) => string,
): string {
  const actions: string[] = []
  for (let r = model.rowStart[state]; r < model.rowStart[state + 1]; r++)
    if (policy[r] >= 0.005) actions.push(write(model.actions[model.rowAction[r]]))
  return actions.join('|')
}
