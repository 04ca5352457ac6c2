import { formatCount, formatNumber } from '../../core/formats/number'
import { picked } from '../../core/formats/picked'
import type { ViewFacts } from '../../core/lesson/named-numbers'

/** States on paper at the most: the whole table is a file. */
const MOST = 240

/** Values and policy of the states, as a table for paper. */
export function StateNumbers({ facts: { model, values, policy } }: { facts: ViewFacts }) {
  if (!values) return null
  const states = Array.from({ length: model.states }, (_, s) => s).filter((s) => !model.ending[s])
  return (
    <div className="printed-numbers">
      <Line state="state" value="value" action="action" />
      {states.slice(0, MOST).map((s) => (
        <Line
          key={s}
          state={model.labels[s]}
          value={formatNumber(values[s], 4)}
          action={policy ? picked(model, s, policy, (action) => action) : ''}
        />
      ))}
      {states.length > MOST && <p>… and {formatCount(states.length - MOST)} more states</p>}
    </div>
  )
}

function Line({ state, value, action }: { state: string; value: string; action: string }) {
  return (
    <p className="flex gap-2 border-b border-rule">
      <span className="min-w-0 flex-1 truncate">{state}</span>
      <b className="font-semibold tabular-nums">{value}</b>
      <span className="w-2/5 truncate">{action}</span>
    </p>
  )
}
