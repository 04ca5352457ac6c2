'use client'

import { useState } from 'react'
import type { GridEnvironment } from '../../../core/kinds/grid/kind'
import {
  BONUS_QUESTIONS,
  gridWithBonuses,
  type BonusQuestion,
} from '../../../core/kinds/grid/without-bonuses'
import { planAside } from '../../../session/plan/plan-aside'
import { Button } from '../../parts/Button'
import { useParts } from '../../study/study-context'

/** Do the bonuses of a grid bend the best policy? Compares with the same grid where they pay otherwise. */
export function BonusQuestions({
  document,
  onFail,
}: {
  document: GridEnvironment
  onFail(message: string): void
}) {
  const { plan, study } = useParts()
  const [busy, setBusy] = useState(false)
  if (document.grid.bonuses.length === 0) return null
  const ask = async (question: BonusQuestion) => {
    setBusy(true)
    onFail('')
    try {
      const { discount, tolerance } = plan.store.getState()
      const model = gridWithBonuses({ ...document, discount }, question)
      plan.hold(await planAside(model, discount, tolerance, BONUS_QUESTIONS[question]))
      if (!study.getState().layers.has('difference')) study.getState().toggleLayer('difference')
    } catch (error) {
      onFail(`It could not be compared. ${error instanceof Error ? error.message : ''}`)
    } finally {
      setBusy(false)
    }
  }
  return (Object.keys(BONUS_QUESTIONS) as BonusQuestion[]).map((question) => (
    <Button
      key={question}
      className="px-1.5 py-0.5 text-[13px]"
      disabled={busy}
      title={`Compares with ${BONUS_QUESTIONS[question]}`}
      onClick={() => void ask(question)}
    >
      {question === 'nothing' ? 'Without bonuses' : 'Bonuses as a potential'}
    </Button>
  ))
}
