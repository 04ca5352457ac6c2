import type { Model } from '../model/model'

/**
 * A model by its names, to the bit: two that are told alike are the same but for how states and actions are numbered.
 * What endings look like to an agent does not matter.
 * @param merged  whether outcomes that lead to one state count as one, with their mean reward
 */
export function modelByNames(model: Model, merged = false): Record<string, unknown> {
  const looks = (s: number) =>
    model.labels.filter((_, t) => !model.ending[t] && model.observation[t] === model.observation[s]).sort()
  const states = Object.fromEntries(
    model.labels.map((label, s) => {
      const actions: Record<string, unknown> = {}
      for (let r = model.rowStart[s]; r < model.rowStart[s + 1]; r++) {
        const outcomes: Record<string, number[][]> = {}
        for (let o = model.outcomeStart[r]; o < model.outcomeStart[r + 1]; o++) {
          const told = (outcomes[model.labels[model.outcomeState[o]]] ??= [])
          const [chance, reward] = [model.outcomeProbability[o], model.outcomeReward[o]]
          const [first] = told
          if (!merged || !first) {
            told.push([chance, reward, model.outcomeDiscount?.[o] ?? 1])
            continue
          }
          const sum = first[0] + chance
          if (first[1] !== reward) first[1] = (first[1] * first[0] + reward * chance) / sum
          first[0] = sum
        }
        actions[model.actions[model.rowAction[r]]] = outcomes
      }
      return [label, { ending: model.ending[s], actions, looks: model.ending[s] ? [] : looks(s) }]
    }),
  )
  const starts: Record<string, number> = {}
  model.startState.forEach((s, i) => {
    starts[model.labels[s]] = (starts[model.labels[s]] ?? 0) + model.startProbability[i]
  })
  return { states, starts }
}
