import { advantageOf } from '../core/compare/run-statistics'
import { scoreOf } from '../core/compare/scores'
import type { SweepValue } from '../core/compare/sweep'
import { fixedNumber, significantNumber } from '../core/formats/number'
import type { compare, RunsDone, sweep } from './comparing'
import type { Terminal } from './terminal'

/** Milliseconds between two drawings of the progress bar. */
const DRAWING = 200
const BAR = 30

/** A bar with the time that is left, on `err`, where a person looks at it. */
export function progressBar({ err, isWatched }: Pick<Terminal, 'err' | 'isWatched'>): RunsDone {
  if (!isWatched) return () => {}
  const started = performance.now()
  let drawn = started
  return (done, of) => {
    const now = performance.now()
    if (done < of && now < drawn + DRAWING) return
    drawn = now
    const filled = Math.floor((BAR * done) / of)
    const left = Math.ceil((((now - started) / done) * (of - done)) / 1000)
    err(
      done === of
        ? `\r${' '.repeat(BAR + 50)}\r`
        : `\r[${'#'.repeat(filled)}${' '.repeat(BAR - filled)}] ${done} of ${of} runs, about ${left} s left  `,
    )
  }
}

/** A comparison as lines for people. */
export function comparedLines({ contestants, differences, best, score, runs }: Compared): string {
  return [
    `${runs} runs each, by the ${scoreOf(score).title}:`,
    ...contestants.map(({ name, scores }) => {
      const told = scores[score]
      return `  ${name}: ${told ? `${fixedNumber(told.mean)} ± ${fixedNumber(told.error)}` : 'none'}`
    }),
    ...differences.map((difference) => {
      const { mean, low, high } = advantageOf(difference)
      const interval = `${fixedNumber(low)} to ${fixedNumber(high)}, 95 %`
      return `${best} beats ${difference.from} in ${difference.better} of ${difference.runs} runs, by ${fixedNumber(mean)} (${interval}).`
    }),
    '',
  ].join('\n')
}
type Compared = Awaited<ReturnType<typeof compare>>['result']

/** A sweep as lines for people. */
export function sweptLines({ cells, best, notToldFromBest, score, runs }: Swept): string {
  const words = (values: Readonly<Record<string, SweepValue>>) =>
    Object.entries(values)
      .map(([name, value]) => `${name} ${typeof value === 'string' ? value : significantNumber(value)}`)
      .join(', ')
  return [
    `${runs} runs of each, by the ${scoreOf(score).title}:`,
    ...cells.map(({ values, mean, low, high }) =>
      mean === null
        ? `  ${words(values)}: none`
        : `  ${words(values)}: ${fixedNumber(mean)}${low === null || high === null ? '' : ` (${fixedNumber(low)} to ${fixedNumber(high)})`}`,
    ),
    ...(best ? [`The best is ${words(best)}.`] : []),
    ...(notToldFromBest.length ? [`Not told from it: ${notToldFromBest.map(words).join('; ')}.`] : []),
    '',
  ].join('\n')
}
type Swept = Awaited<ReturnType<typeof sweep>>['result']
