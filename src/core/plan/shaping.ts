import type { Model } from '../model/model'

/**
 * A model whose steps pay discount x potential(next) - potential(here) on top of their reward. However large the
 * potential, the best policy stays the same (Ng, Harada & Russell 1999, theorem 1): what a step into a promising
 * place pays, the step out of it takes back. Values change by the potential: V'(s) = V(s) - potential(s).
 *
 * @param potential [states] that of endings counts as 0
 */
export function shapedModel(model: Model, potential: Float64Array, discount: number): Model {
  const { states, rowStart, outcomeStart, outcomeState, ending } = model
  const outcomeReward = model.outcomeReward.slice()
  const at = (s: number) => (ending[s] ? 0 : potential[s])
  for (let s = 0; s < states; s++)
    for (let o = outcomeStart[rowStart[s]]; o < outcomeStart[rowStart[s + 1]]; o++)
      outcomeReward[o] += discount * (model.outcomeDiscount?.[o] ?? 1) * at(outcomeState[o]) - at(s)
  return { ...model, outcomeReward }
}
