import type { RuleMachine } from './machine'
import type { Choice, ChoicePart, Program } from './program'

/** What can be chosen in the state that is loaded, and what is done where something impossible is chosen. */
export class Offers {
  constructor(
    private readonly machine: RuleMachine,
    private readonly program: Program,
  ) {}

  /** [choices] which can be taken in the state that is loaded */
  possible(): boolean[] {
    const { machine } = this
    return this.program.choices.map((choice) => {
      if (!choice.when) return true
      machine.choose(choice)
      return machine.possible(choice)
    })
  }

  /** What is done where a choice is offered: itself, or what an impossible one is clamped to. */
  carriedOut(c: number, possible: readonly boolean[]): Choice {
    const { choices, treatment } = this.program
    return possible[c] || treatment === 'penalised'
      ? choices[c]
      : choices[nearestChoice(choices, possible, c, possible.indexOf(true))]
  }
}

/** The possible choice of the same action nearest to an impossible one, the first of two; else the first possible action there is. */
function nearestChoice(
  choices: readonly Choice[],
  possible: readonly boolean[],
  wanted: number,
  first: number,
): number {
  let best = -1
  let least = Infinity
  choices.forEach((choice, c) => {
    if (!possible[c] || choice.group !== choices[wanted].group) return
    const distance = distanceOf(choice.parts, choices[wanted].parts)
    if (distance < least) {
      least = distance
      best = c
    }
  })
  return best >= 0 ? best : first
}

/** How far two choices of one action are apart: the sum over their numbers. Choices with other words are not compared. */
function distanceOf(one: readonly ChoicePart[], other: readonly ChoicePart[]): number {
  return one.reduce((sum, part, p) => sum + partDistance(part, other[p].value), 0)
}

/** How far what a part is lies from what is wanted; infinity for another word. */
export function partDistance({ value, isWord }: ChoicePart, wanted: number): number {
  if (!isWord) return Math.abs(value - wanted)
  return value === wanted ? 0 : Infinity
}
