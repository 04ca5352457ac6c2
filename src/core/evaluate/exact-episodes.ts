import type { Model, RowPolicy } from '../model/model'

/** What episodes under a policy come to, exactly. */
export interface ExactEpisodes {
  /** The expected discounted return of an episode, which the step limit may cut off. */
  readonly value: number
  /** [cap + 1] the chance that it ended by itself within so many steps */
  readonly endedBy: Float64Array
  /** [cap + 1] the chance that it took a step of `goal` within so many steps; 0 where there is none */
  readonly goalBy: Float64Array
  /** [states] how often an episode is in each state with a choice to make, in expectation */
  readonly presence: Float64Array
}

/** What is less likely than this is not followed any further. */
const NEGLIGIBLE = 1e-12

/**
 * Follows all episodes at once, step by step, until the step limit (the forward equations of a finite Markov chain; Puterman
 * 1994, section 4.2). Costs outcomes x steps.
 * @param goal  [outcomes] 1 for steps that are what an agent is after
 */
export function exactEpisodes(
  model: Model,
  policy: RowPolicy,
  discount: number,
  cap: number,
  goal: Uint8Array | null = null,
): ExactEpisodes {
  const { states, rowStart, outcomeStart, outcomeState, outcomeProbability, outcomeReward, ending } = model
  const endedBy = new Float64Array(cap + 1)
  const goalBy = new Float64Array(cap + 1)
  const presence = new Float64Array(states)
  // Where episodes are, and what the rewards that come next count for; the first chance of those without a goal so far.
  let [mass, worth, waiting] = [0, 0, 0].map(() => new Float64Array(states))
  let [nextMass, nextWorth, nextWaiting] = [0, 0, 0].map(() => new Float64Array(states))
  model.startState.forEach((s, i) => {
    for (const each of [mass, worth, waiting]) each[s] += model.startProbability[i]
  })
  let value = 0
  for (let step = 1; step <= cap; step++) {
    let ended = 0
    let reached = 0
    let left = 0
    for (let s = 0; s < states; s++) {
      if (mass[s] < NEGLIGIBLE) continue
      presence[s] += mass[s]
      for (let r = rowStart[s]; r < rowStart[s + 1]; r++) {
        if (policy[r] === 0) continue
        for (let o = outcomeStart[r]; o < outcomeStart[r + 1]; o++) {
          const chance = policy[r] * outcomeProbability[o]
          const next = outcomeState[o]
          value += worth[s] * chance * outcomeReward[o]
          if (goal?.[o]) reached += waiting[s] * chance
          if (ending[next]) {
            ended += mass[s] * chance
            continue
          }
          left += mass[s] * chance
          nextMass[next] += mass[s] * chance
          nextWorth[next] += worth[s] * chance * discount * (model.outcomeDiscount?.[o] ?? 1)
          if (!goal?.[o]) nextWaiting[next] += waiting[s] * chance
        }
      }
    }
    endedBy[step] = endedBy[step - 1] + ended
    goalBy[step] = goalBy[step - 1] + reached
    if (left < NEGLIGIBLE) {
      endedBy.fill(endedBy[step], step)
      goalBy.fill(goalBy[step], step)
      break
    }
    ;[mass, nextMass] = [nextMass, mass.fill(0)]
    ;[worth, nextWorth] = [nextWorth, worth.fill(0)]
    ;[waiting, nextWaiting] = [nextWaiting, waiting.fill(0)]
  }
  return { value, endedBy, goalBy, presence }
}

/** The number of steps within which a share of the episodes that come to it at all have come to it; -1 where none do. */
export function stepsUntil(by: Float64Array, share: number): number {
  const all = by[by.length - 1]
  return all > NEGLIGIBLE ? by.findIndex((chance) => chance >= share * all - NEGLIGIBLE) : -1
}

/**
 * Steps that an agent is after: into an ending that pays more than nothing; where no ending does, into those that pay most.
 * @returns [outcomes]; null where there is no ending
 */
export function goalSteps(model: Model): Uint8Array | null {
  const { outcomes, outcomeState, outcomeReward, ending } = model
  let most = -Infinity
  for (let o = 0; o < outcomes; o++) if (ending[outcomeState[o]]) most = Math.max(most, outcomeReward[o])
  if (most === -Infinity) return null
  const least = most > 0 ? Number.MIN_VALUE : most
  return Uint8Array.from({ length: outcomes }, (_, o) =>
    ending[outcomeState[o]] && outcomeReward[o] >= least ? 1 : 0,
  )
}
