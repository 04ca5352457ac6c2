/** Numbers beside a timeline: a name and what it stands at. */
export function Readout({ items }: { items: readonly (readonly [name: string, value: string])[] }) {
  return (
    <dl className="grid grid-cols-[auto_1fr] content-center gap-x-3 gap-y-0.5 text-[14px]">
      {items.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-ink-soft">{name}</dt>
          <dd className="text-right font-semibold whitespace-nowrap">{value}</dd>
        </div>
      ))}
    </dl>
  )
}
