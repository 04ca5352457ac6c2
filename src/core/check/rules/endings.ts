import { formatCount, significantNumber } from '../../formats/number'
import { listNames } from '../../problem'
import { longestWay } from '../cycles'
import { nearest, walkTo } from '../search'
import type { CheckRule } from './rule'
import { NOTHING, verdict, type Found } from '../verdict'

export const trap: CheckRule = {
  title: 'a state from which no ending can be reached',
  severity: 'error',
  proves: 'From every state an ending can be reached.',
  judge({ model, discount, search, toEnding, document, own }) {
    const lost = search.order.filter((s) => toEnding[s] < 0)
    if (!model.ending.includes(1)) {
      // An ending that is written down or drawn, and that no state leads to.
      if (own.some(({ rule }) => rule === 'never-ends'))
        return {
          found: [
            {
              where: model.labels[lost[0]],
              cause: `No ending can be reached from any state: an episode stays among ${lost.length === 1 ? model.labels[lost[0]] : `${formatCount(lost.length)} states around ${model.labels[lost[0]]}`}.`,
              remedy: 'Open a way to an ending.',
              states: lost,
            },
          ],
        }
      if (discount < 1) return NOTHING
      return {
        found: [
          {
            where: document.name,
            cause: 'Nothing ends an episode, and at discount 1 no value is finite.',
            remedy: 'Add an ending, or choose a discount below 1.',
            states: lost,
          },
        ],
      }
    }
    if (!lost.length) return { found: [], holds: 'From every state an ending can be reached.' }
    const walk = nearest(model, search, (s) => toEnding[s] < 0)!
    const names = Array.from(lost.subarray(0, 50), (s) => model.labels[s])
    const first = model.labels[lost[0]]
    return {
      found: [
        {
          where: first,
          cause: `No ending can be reached from ${lost.length === 1 ? first : `${formatCount(lost.length)} states: ${listNames(names, 5).replace(/ and \d+ more$/, ', …')}`}.${
            discount === 1 ? ' At discount 1 they have no finite value.' : ''
          }`,
          remedy: 'Open a way out, make them an ending, or keep the agent from getting in.',
          states: lost,
          walk,
        },
      ],
    }
  },
}

export const noEndings: CheckRule = {
  title: 'whether episodes end by themselves',
  severity: 'fact',
  proves: 'How episodes come to an end.',
  judge({ model, discount }) {
    if (model.ending.includes(1) || discount === 1) return NOTHING
    return {
      found: [
        {
          where: 'episodes',
          cause: model.cap
            ? `Nothing ends an episode: every one is cut off after ${formatCount(model.cap)} steps.`
            : 'Nothing ends an episode, and there is no step limit.',
        },
      ],
    }
  },
}

export const certainEnding: CheckRule = {
  title: 'an ending that is certain',
  severity: 'fact',
  proves: 'Which ending comes is not certain beforehand.',
  judge({ model, search, components }) {
    const endings = search.order.filter((s) => model.ending[s])
    if (endings.length !== 1 || components.components.length) return NOTHING
    return {
      found: [
        {
          where: model.labels[endings[0]],
          cause: `Every episode ends in ${model.labels[endings[0]]}, whatever the agent does.`,
          states: endings,
        },
      ],
    }
  },
}

export const stepLimit: CheckRule = {
  title: 'a step limit shorter than the way to an ending',
  severity: 'warning',
  proves: 'The step limit leaves time to come to the nearest and to the best ending.',
  judge({ model, search, toEnding }) {
    const { cap } = model
    if (!cap || !model.ending.includes(1)) return NOTHING
    const starts = [...new Set(model.startState)]
    const found: Found[] = []
    const late = starts.filter((s) => toEnding[s] > cap)
    if (late.length)
      found.push({
        where: listNames(late.map((s) => model.labels[s])),
        cause: `The step limit is ${formatCount(cap)}, and the shortest way to an ending takes ${formatCount(Math.min(...late.map((s) => toEnding[s])))} steps${late.length === starts.length ? '' : ' from there'}: such an episode never ends by itself.`,
        remedy: 'Raise the step limit.',
        states: late,
        walk: nearest(model, search, (s) => model.ending[s] === 1),
      })
    const best = bestEnding(model)
    if (!late.length && best && search.steps[best.state] > cap)
      found.push({
        where: model.labels[best.state],
        cause: `The ending that pays most, ${significantNumber(best.reward, 6)}, is ${formatCount(search.steps[best.state])} steps away at the least, and the step limit is ${formatCount(cap)}.`,
        remedy: 'Raise the step limit.',
        states: [best.state],
        walk: walkTo(model, search, best.state),
      })
    return verdict(found, `The step limit of ${formatCount(cap)} leaves time to come to an ending.`)
  },
}

/** The ending into which a step can pay most. */
function bestEnding(model: {
  readonly outcomes: number
  readonly outcomeState: Int32Array
  readonly outcomeReward: Float64Array
  readonly ending: Uint8Array
}): { state: number; reward: number } | null {
  let best: { state: number; reward: number } | null = null
  for (let o = 0; o < model.outcomes; o++) {
    const state = model.outcomeState[o]
    const reward = model.outcomeReward[o]
    if (model.ending[state] && (!best || reward > best.reward)) best = { state, reward }
  }
  return best
}

export const episodeLength: CheckRule = {
  title: 'how long episodes are',
  severity: 'fact',
  proves: 'The shortest and the longest episode.',
  judge({ model, search, rounds }) {
    const cap = model.cap ? `, up to the step limit of ${formatCount(model.cap)}` : ''
    const shortest = nearest(model, search, (s) => model.ending[s] === 1)
    const found: Found[] = []
    if (shortest)
      found.push({
        where: model.labels[shortest.start],
        cause: `The shortest episode has ${steps(shortest.outcomes.length)}.`,
        walk: shortest,
      })
    if (rounds.kind === 'cycle')
      found.push({
        where: model.labels[rounds.start],
        cause: `Episodes can be of any length${cap}: one can come back to ${model.labels[rounds.start]} after ${steps(rounds.outcomes.length)}.`,
        states: rounds.outcomes.map((o) => model.outcomeState[o]),
        walk: {
          start: walkTo(model, search, rounds.start).start,
          outcomes: [...walkTo(model, search, rounds.start).outcomes, ...rounds.outcomes],
        },
      })
    else {
      const longest = longestWay(model, rounds.order)
      found.push({
        where: model.labels[longest.start],
        cause: `The longest episode has ${steps(longest.steps)}${model.cap && model.cap < longest.steps ? `, more than the step limit of ${formatCount(model.cap)}` : ''}.`,
        walk: longest,
      })
    }
    return { found }
  },
}

function steps(count: number): string {
  return count === 1 ? '1 step' : `${formatCount(count)} steps`
}
