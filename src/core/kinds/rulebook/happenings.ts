import type { Model } from '../../model/model'
import { stateOfRow } from '../../model/model'
import type { StateSpace } from '../../model/space'
import {
  MOST_HAPPENINGS,
  outcomesAsHappenings,
  type Happening,
  type Happenings,
  type RewardPart,
} from '../happening'
import type { RulebookDocument } from './document'
import { RuleMachine } from './machine'
import { Offers } from './offers'
import type { Guarded, Program } from './program'
import { readRules } from './read-rules'

/** The most of a reward line that is told. */
const LONGEST_TITLE = 60

/** The ways in which chance can fall in steps of a rulebook: every one is worked out again when it is asked for. */
export function rulebookHappenings(
  document: RulebookDocument,
  { model, space }: { readonly model: Model; readonly space: StateSpace | null },
): Happenings {
  const { program } = readRules(document)
  const machine = new RuleMachine(program)
  const offers = new Offers(machine, program)
  const codes = codesOf(machine, space!, model.states)
  const states = new Map(Array.from(codes, (code, state) => [code, state]))
  const endings = program.endsAfter.map(({ title }) => model.labels.indexOf(title))
  const rewards = rewardLines(document, program)
  return (row) => {
    machine.load(codes[stateOfRow(model, row)])
    const possible = offers.possible()
    const choice = model.rowAction[row]
    const carried = offers.carriedOut(choice, possible)
    machine.choose(carried)
    const penalty = !possible[choice] && program.penalty ? program.penalty.run(machine.frame) : 0
    const paid = (): RewardPart[] =>
      [
        ...rewards
          .filter(({ when }) => !when || when.run(machine.frame) === 1)
          .map(({ title, value }) => ({ title, amount: value.run(machine.frame) })),
        { title: 'penalty: the action is impossible', amount: -penalty },
      ].filter(({ amount }) => amount !== 0)
    const found: Happening[] = []
    let many = false
    machine.run(
      {
        happened: () => {},
        outcome: (code, now) => {
          if (!(now[0] > 0) || many) return
          if (found.length === MOST_HAPPENINGS) many = true
          found.push({
            probability: now[0],
            fell: machine.fallen(),
            drawn: machine.drawn(),
            next: code < 0 ? endings[-1 - code] : (states.get(code) ?? -1),
            parts: paid(),
            instead: carried === program.choices[choice] ? null : carried.label,
          })
        },
      },
      'hold',
    )
    return many ? outcomesAsHappenings(model, 'reward')(row) : found
  }
}

/** The reward lines of a rulebook, called by what they say. */
function rewardLines({ text }: RulebookDocument, program: Program): (Guarded & { readonly title: string })[] {
  return program.rewards
    .flat()
    .sort((x, y) => x.from - y.from)
    .map((part) => {
      const title = text.slice(part.from, part.to).replace(/\s+/g, ' ')
      return {
        ...part,
        title: title.length > LONGEST_TITLE ? `${title.slice(0, LONGEST_TITLE - 1)}…` : title,
      }
    })
}

/** What the chances of a rulebook are called. */
export function chanceNames(document: RulebookDocument): string[] {
  return readRules(document).program.chances.map(({ name }) => name)
}

/** What the reward lines of a rulebook are called. */
export function rewardTitles(document: RulebookDocument): string[] {
  return rewardLines(document, readRules(document).program).map(({ title }) => title)
}

/** [states] the number of each state among all combinations of the variables; -1 for endings after a step. */
function codesOf(machine: RuleMachine, { axes, index }: StateSpace, states: number): Float64Array {
  const width = axes.length
  return Float64Array.from({ length: states }, (_, state) =>
    index[state * width] < 0 ? -1 : machine.codeOf((d) => index[state * width + d]),
  )
}
