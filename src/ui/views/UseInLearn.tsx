'use client'

import type { LearnChoice } from '../../core/settings/choice'
import { Button } from '../parts/Button'
import { useParts } from '../study/study-context'

/** Takes the settings of a contestant to Learn. */
export function UseInLearn({ choice }: { choice: LearnChoice }) {
  const { learn } = useParts()
  return (
    <Button
      className="!px-1.5 !py-0.5 text-[13px]"
      title="Its method and settings, in Learn"
      onClick={() => learn.choose(choice)}
    >
      Use its settings in Learn
    </Button>
  )
}
