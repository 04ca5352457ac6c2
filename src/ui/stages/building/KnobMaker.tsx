'use client'

import dynamic from 'next/dynamic'
import type { EnvironmentDocument } from '../../../core/kinds/kinds'
import { Fold } from '../../study/Fold'
import { Waiting } from '../../parts/Waiting'

/** Loaded when it is unfolded. */
const KnobList = dynamic(() => import('./KnobList').then((module) => module.KnobList), { loading: Waiting })

/** Where numbers of the document are given knobs. */
export function KnobMaker({ document }: { document: EnvironmentDocument }) {
  return (
    <Fold title="Make knobs">
      <KnobList document={document} />
    </Fold>
  )
}
