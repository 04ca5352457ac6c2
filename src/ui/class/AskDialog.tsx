import { useState } from 'react'
import { askClass } from '../../session/api/questions'
import type { FollowedClass } from '../../session/lesson/followed-class'
import type { Suggestion } from '../../session/lesson/to-ask'
import { Modal } from '../parts/Modal'
import { ProblemList } from '../parts/ProblemList'
import { useAttempt } from '../parts/use-attempt'
import { AskForm } from './AskForm'

/** Asks the class that follows what is covered. */
export function AskDialog({
  followed,
  suggestions,
  onAsked,
  onClose,
}: {
  followed: FollowedClass
  suggestions: readonly Suggestion[]
  /** @param id  the number of the question */
  onAsked(id: string): void
  onClose(): void
}) {
  const [busy, setBusy] = useState(false)
  const { problems, attempt } = useAttempt()
  return (
    <Modal open title="Ask the class" onClose={onClose} width="w-[40rem]">
      <AskForm
        suggestions={suggestions}
        busy={busy}
        onAsk={(question, truth) => {
          setBusy(true)
          void attempt(async () => onAsked(await askClass(followed.id, question, truth))).finally(() =>
            setBusy(false),
          )
        }}
      />
      <ProblemList problems={problems} />
    </Modal>
  )
}
