import { formatNumber, significantNumber } from '../../core/formats/number'
import { readNumber } from '../../core/formats/read-number'
import { DIRECTION_NAMES } from '../../core/kinds/grid/directions'
import type { ViewFacts } from '../../core/lesson/named-numbers'
import type { Model } from '../../core/model/model'
import type { Question, Truth } from '../../server/contract/questions'

/** A question that can be asked of something that is covered, with its answer where that is known. */
export interface Suggestion {
  readonly question: Question
  readonly truth: Truth | null
}

/** The part of what a view shows that answers come from. */
export type Answers = Pick<ViewFacts, 'model' | 'values' | 'policy' | 'rowValues'>

/** The longest working that a class is shown, in signs. */
const MOST_WORKING = 2000
/** The most choices that a question has. */
const MOST_CHOICES = 24
/** Chances that differ by less are the same. */
const SAME = 1e-9

/**
 * What a class can be asked about a state on the board: its value, and what the policy does there.
 * @param state    its name; another one than the model has gives nothing
 * @param working  how its value was worked out, where that is shown
 */
export function questionsAbout(state: string, answers: Answers, working = ''): readonly Suggestion[] {
  const { model, values, policy } = answers
  const index = model.labels.indexOf(state)
  if (index < 0) return []
  const actions = actionsIn(model, index)
  const worth = working && working.length <= MOST_WORKING ? working : actionValues(answers, index)
  const found: Suggestion[] = []
  if (values)
    found.push({
      question: { kind: 'number', text: `What is the value of ${state}?` },
      truth: { value: values[index], working: worth },
    })
  if (policy && actions.length > 1 && actions.length <= MOST_CHOICES) {
    const choices = actions.map(({ name }) => name)
    const best = likeliest(policy, actions)
    found.push({
      question: {
        kind: choices.every(isDirection) ? 'needle' : 'choice',
        text: `What does the policy do in ${state}?`,
        choices,
      },
      // Where several are as likely there is no one answer.
      truth: best === null ? null : { value: best, working: worth },
    })
  }
  return found
}

/** What a class can be asked about a number of a table. @param says  what stands there */
export function questionAboutNumber(row: string, column: string | null, says: string): Suggestion {
  const value = readNumber(says)
  const place = [...(row ? [`row ${row}`] : []), ...(column ? [`column ${column}`] : [])].join(', ')
  return {
    question: { kind: 'number', text: place ? `Which number is in ${place}?` : 'Which number is it?' },
    truth: value === null ? null : { value, working: '' },
  }
}

interface ActionOf {
  readonly row: number
  readonly name: string
}

function actionsIn({ rowStart, rowAction, actions }: Model, state: number): readonly ActionOf[] {
  return Array.from({ length: rowStart[state + 1] - rowStart[state] }, (_, i) => ({
    row: rowStart[state] + i,
    name: actions[rowAction[rowStart[state] + i]],
  }))
}

/** The place of the action that the policy takes most likely; null where several are as likely. */
function likeliest(policy: Float64Array, actions: readonly ActionOf[]): number | null {
  const most = Math.max(...actions.map(({ row }) => policy[row]))
  const best = actions.flatMap(({ row }, i) => (policy[row] > most - SAME ? [i] : []))
  return best.length === 1 ? best[0] : null
}

/** What every action of a state is worth, in words; nothing where that is not known. */
function actionValues({ model, rowValues }: Answers, state: number): string {
  if (!rowValues) return ''
  return actionsIn(model, state)
    .map(({ row, name }) => `${name} ${formatNumber(rowValues[row], 3)}`)
    .join(', ')
    .slice(0, MOST_WORKING)
}

function isDirection(name: string): boolean {
  return (DIRECTION_NAMES as readonly string[]).includes(name)
}

/** An answer as it stands in a field. */
export function answerText({ question, truth }: Suggestion): string {
  if (!truth) return ''
  return question.kind === 'number'
    ? significantNumber(truth.value, 6).replace('−', '-')
    : question.choices[truth.value]
}
