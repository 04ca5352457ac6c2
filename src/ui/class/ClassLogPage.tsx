import { ButtonLink, PageHeader } from '../parts/PageHeader'

/** What was changed for a class, by whom, the last in front. */
export function ClassLogPage({
  id,
  name,
  lines,
}: {
  id: string
  name: string
  lines: readonly { readonly at: string; readonly who: string; readonly what: string }[]
}) {
  return (
    <div className="min-h-dvh">
      <PageHeader
        title="Change log"
        back={`/classes/${id}`}
        backWords="Back to the class"
        actions={<ButtonLink href={`/classes/${id}`}>{name}</ButtonLink>}
      >
        In the class {name}: the last {lines.length} changes.
      </PageHeader>
      <main className="max-w-4xl px-4 pt-6 pb-16 sm:px-8">
        <table className="w-full text-[15px] leading-6">
          <thead>
            <tr className="border-b border-rule-strong text-left text-[13px] text-ink-soft">
              <th className="pr-4 font-normal">Time (UTC)</th>
              <th className="pr-4 font-normal">Who</th>
              <th className="font-normal">What</th>
            </tr>
          </thead>
          <tbody>
            {lines.map(({ at, who, what }, i) => (
              <tr key={i} className="border-b border-rule align-top">
                <td className="pr-4 whitespace-nowrap tabular-nums">{at.slice(0, 19).replace('T', ' ')}</td>
                <td className="pr-4">{who}</td>
                <td>{what}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </main>
    </div>
  )
}
