/** Numbers beside a timeline: a name and what it stands at. */
export function Readout({ items }: { items: readonly (readonly [name: string, value: string])[] }) {
  return (
    <dl className="flex h-full flex-col justify-center gap-y-0.5 text-[14px] leading-[19px]">
      {items.map(([name, value]) => (
        <div key={name} className="flex items-baseline justify-between gap-3">
          <dt className="text-ink-soft">{name}</dt>
          <dd className="text-right font-semibold whitespace-nowrap">{value}</dd>
        </div>
      ))}
    </dl>
  )
}
