import type { AskedQuestion, Question, QuestionState, Truth } from '../../server/contract/questions'
import { send } from './send'

/** Asks a class. @returns the number of the question */
export async function askClass(classId: string, question: Question, truth: Truth | null): Promise<string> {
  const answer = await send(`/api/classes/${classId}/questions`, {
    method: 'POST',
    body: JSON.stringify({ question, truth }),
  })
  return ((await answer.json()) as { id: string }).id
}

export async function readQuestion(classId: string, id: string): Promise<AskedQuestion> {
  return (await send(`/api/classes/${classId}/questions/${id}`)).json()
}

export async function changeQuestion(classId: string, id: string, state: QuestionState): Promise<void> {
  await send(`/api/classes/${classId}/questions/${id}`, { method: 'PATCH', body: JSON.stringify({ state }) })
}

/** A student answers. */
export async function answerQuestion(id: string, value: number): Promise<void> {
  await send(`/api/class/questions/${id}`, { method: 'PUT', body: JSON.stringify({ value }) })
}
