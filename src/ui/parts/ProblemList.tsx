import type { Problem } from '../../core/problem'

/** What is wrong with an input, place by place. */
export function ProblemList({ problems }: { problems: readonly Problem[] }) {
  if (problems.length === 0) return null
  return (
    <ul role="alert" className="space-y-1.5">
      {problems.map((problem, i) => (
        <li key={i} className="border-l-2 border-alert pl-2.5 leading-5">
          <span className="font-semibold">{problem.place}</span>
          <br />
          {problem.cause} <span className="text-ink-soft">{problem.remedy}</span>
        </li>
      ))}
    </ul>
  )
}
