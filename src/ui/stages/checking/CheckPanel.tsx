'use client'

import { ExpectationsPanel } from './ExpectationsPanel'
import { FindingsPanel } from './FindingsPanel'
import { HandPanel } from './HandPanel'
import { HoldPanel } from './HoldPanel'
import { SamplingPanel } from './SamplingPanel'

/** The controls of Check: an episode by hand, and what was found. */
export function CheckPanel() {
  return (
    <div className="space-y-5">
      <HandPanel />
      <FindingsPanel />
      <ExpectationsPanel />
      <SamplingPanel />
      <HoldPanel />
    </div>
  )
}
