/** Words with what they mean beside them, a line each. */
export function WordList({
  lines,
  columns,
}: {
  lines: readonly (readonly [word: string, meaning: string])[]
  /** A class for the width of the words. */
  columns: string
}) {
  return (
    <dl className={`grid gap-x-4 gap-y-1 ${columns}`}>
      {lines.map(([word, meaning]) => (
        <div key={meaning} className="contents">
          <dt className="font-semibold">{word}</dt>
          <dd>{meaning}</dd>
        </div>
      ))}
    </dl>
  )
}
