import { fixedNumber, formatNumber } from '../../core/formats/number'
import type { Standings } from '../../server/contract/classes'

/** Who has come how far: a line a student, points of each level side by side. */
export function StandingsTable({
  standings: { levels, standings, revealed },
  large = false,
}: {
  standings: Standings
  /** For a projector. */
  large?: boolean
}) {
  const most = levels.reduce((sum, { points }) => sum + points, 0)
  if (!standings.length) return <p className="py-3 text-ink-soft">Nobody has a score yet.</p>
  return (
    <div className="overflow-x-auto">
      <table
        className={`w-full border-collapse ${large ? 'text-[26px] leading-9' : 'text-[15px] leading-6'}`}
      >
        <thead>
          <tr
            className={`border-b border-rule-strong text-left text-ink-soft ${large ? 'text-[17px]' : 'text-[13px]'}`}
          >
            <th className="pr-3 font-normal">Rank</th>
            <th className="pr-3 font-normal">Name</th>
            {levels.length > 1 &&
              levels.map(({ name, points }) => (
                <th key={name} className="pr-3 text-right font-normal">
                  {name} <span className="whitespace-nowrap">(of {formatNumber(points)})</span>
                </th>
              ))}
            <th className="text-right font-normal whitespace-nowrap">Points (of {formatNumber(most)})</th>
            {revealed && <th className="pl-3 text-right font-normal">Hidden seed</th>}
          </tr>
        </thead>
        <tbody>
          {standings.map(({ rank, name, points, levels: each, hidden, own }, i) => (
            <tr key={i} className={`border-b border-rule ${own ? 'bg-brass-bright/15 font-semibold' : ''}`}>
              <td className="pr-3 tabular-nums">{rank}</td>
              <td className="max-w-0 min-w-24 truncate pr-3 sm:max-w-64" title={name}>
                {name}
                {own && <span className="font-normal text-ink-soft"> (you)</span>}
              </td>
              {levels.length > 1 &&
                each.map((value, level) => (
                  <td key={level} className="pr-3 text-right tabular-nums">
                    {fixedNumber(value)}
                  </td>
                ))}
              <td className="text-right tabular-nums">{fixedNumber(points)}</td>
              {revealed && (
                <td className="pl-3 text-right tabular-nums">
                  {hidden === null ? '–' : fixedNumber(hidden)}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
