import { significantNumber } from '../../core/formats/number'
import type { Question, Spread, Truth } from '../../server/contract/questions'
import { dialAngles } from '../board/glyphs'
import { niceStep } from '../charts/house'

/** How a class answered: dots on a scale, a rose of needles, or bars; with what is true, once it is revealed. */
export function SpreadView({
  question,
  spread,
  truth,
  compact = false,
}: {
  question: Question
  spread: Spread
  truth: Truth | null
  /** Over a board, where there is little room: letters are as large as on a page. */
  compact?: boolean
}) {
  return (
    <div className={compact ? 'space-y-2' : 'space-y-4'}>
      {question.kind === 'number' ? (
        <Dots values={spread.values} truth={truth} width={compact ? 460 : 1000} />
      ) : question.kind === 'needle' ? (
        <Rose choices={question.choices} spread={spread} truth={truth} compact={compact} />
      ) : (
        <Bars choices={question.choices} spread={spread} truth={truth} />
      )}
      {truth && (
        <p
          className={`border-l-4 border-brass-bright pl-3 ${compact ? 'text-[17px] leading-6' : 'text-[22px] leading-8'}`}
        >
          Answer:{' '}
          <b>
            {question.kind === 'number' ? significantNumber(truth.value, 4) : question.choices[truth.value]}
          </b>{' '}
          {truth.working && (
            <span className="block text-[15px] leading-5 whitespace-pre-line text-ink-soft">
              {truth.working}
            </span>
          )}
        </p>
      )}
    </div>
  )
}

const MARGIN = 50
const DOT = 11

/** Numbers as dots on a scale; those that are about the same stand over each other. */
function Dots({
  values,
  truth,
  width,
}: {
  values: readonly number[]
  truth: Truth | null
  /** Of the picture, in units of which a letter has 24. */
  width: number
}) {
  const all = truth ? [...values, truth.value] : values
  if (!all.length) return <Empty />
  const [least, most] = [Math.min(...all), Math.max(...all)]
  const room = most > least ? 0.05 * (most - least) : Math.max(1, Math.abs(most) * 0.1)
  const [low, high] = [least - room, most + room]
  const x = (value: number) => MARGIN + ((width - 2 * MARGIN) * (value - low)) / (high - low)
  const piles = new Map<number, number>()
  const dots = values.map((value) => {
    const column = Math.round(x(value) / (2 * DOT))
    const height = piles.get(column) ?? 0
    piles.set(column, height + 1)
    return { x: column * 2 * DOT, height }
  })
  const tallest = Math.max(6, ...piles.values())
  const floor = tallest * 2 * DOT + 30
  const step = niceStep((high - low) / (width / 160))
  const first = Math.ceil(low / step)
  const ticks = Array.from({ length: Math.floor(high / step) - first + 1 }, (_, i) => (first + i) * step)
  return (
    <svg
      viewBox={`0 0 ${width} ${floor + 50}`}
      className="max-h-[60vh] w-full"
      role="img"
      aria-label={`${values.length} answer${values.length === 1 ? '' : 's'} from ${significantNumber(least)} to ${significantNumber(most)}`}
    >
      {dots.map((dot, i) => (
        <circle
          key={i}
          cx={dot.x}
          cy={floor - DOT - dot.height * 2 * DOT}
          r={DOT - 1}
          className="fill-slate stroke-paper"
          strokeWidth={1.5}
        />
      ))}
      <line
        x1={MARGIN / 2}
        x2={width - MARGIN / 2}
        y1={floor}
        y2={floor}
        className="stroke-ink"
        strokeWidth={1.5}
      />
      {ticks.map((tick) => (
        <g key={tick}>
          <line
            x1={x(tick)}
            x2={x(tick)}
            y1={floor}
            y2={floor + 7}
            className="stroke-ink"
            strokeWidth={1.5}
          />
          <text
            x={x(tick)}
            y={floor + 34}
            textAnchor="middle"
            fontSize={24}
            className="fill-ink-soft tabular-nums"
          >
            {significantNumber(tick, 3)}
          </text>
        </g>
      ))}
      {truth && (
        <g>
          <line
            x1={x(truth.value)}
            x2={x(truth.value)}
            y1={4}
            y2={floor}
            className="stroke-brass-bright"
            strokeWidth={4}
          />
          <polygon
            points={`${x(truth.value) - 12},4 ${x(truth.value) + 12},4 ${x(truth.value)},24`}
            className="fill-brass-bright"
          />
        </g>
      )}
    </svg>
  )
}

/** The share of each direction as a needle of that length, from one centre. */
function Rose({
  choices,
  spread,
  truth,
  compact,
}: {
  choices: readonly string[]
  spread: Spread
  truth: Truth | null
  compact: boolean
}) {
  const angles = dialAngles(choices)
  const most = Math.max(1, ...spread.values)
  return (
    <div className={`flex items-center ${compact ? 'gap-4' : 'flex-wrap gap-8'}`}>
      <svg
        viewBox="-130 -130 260 260"
        className={`text-ink ${compact ? 'w-1/2' : 'w-full max-w-md'}`}
        role="img"
        aria-label={choices.map((choice, i) => `${choice}: ${spread.values[i]}`).join(', ')}
      >
        <circle r={100} fill="none" className="stroke-rule-strong" />
        <circle r={50} fill="none" className="stroke-rule" />
        {choices.map((choice, i) => {
          const length = (100 * spread.values[i]) / most
          const turned = (angles[i] * 180) / Math.PI
          return (
            <g key={choice}>
              <g transform={`rotate(${turned})`}>
                {truth?.value === i && (
                  <path
                    d="M0,0 L112,-16 A113,113 0 0 1 112,16 Z"
                    className="fill-brass-bright"
                    opacity={0.55}
                  />
                )}
                {length > 0 && <polygon points={`${length},0 0,10 0,-10`} fill="currentColor" />}
              </g>
              <text
                x={118 * Math.cos(angles[i])}
                y={118 * Math.sin(angles[i])}
                textAnchor="middle"
                dominantBaseline="central"
                fontSize={13}
                className="fill-ink"
              >
                {spread.values[i]}
              </text>
            </g>
          )
        })}
        <circle r={6} fill="currentColor" />
      </svg>
      <div className={`grow ${compact ? '' : 'min-w-60'}`}>
        <Bars choices={choices} spread={spread} truth={truth} />
      </div>
    </div>
  )
}

function Bars({
  choices,
  spread,
  truth,
}: {
  choices: readonly string[]
  spread: Spread
  truth: Truth | null
}) {
  const most = Math.max(1, ...spread.values)
  return (
    <ul className="space-y-2 text-[20px] leading-7">
      {choices.map((choice, i) => (
        <li key={choice}>
          <p className="flex gap-3">
            <span className={truth?.value === i ? 'font-semibold' : ''}>
              {choice}
              {truth?.value === i && ' ✓'}
            </span>
            <span className="ml-auto tabular-nums">
              {spread.values[i]}
              <span className="text-[15px] text-ink-soft">
                {' '}
                · {spread.answers ? Math.round((100 * spread.values[i]) / spread.answers) : 0} %
              </span>
            </span>
          </p>
          <div className="h-3 bg-rule">
            <div
              className={`h-full ${truth?.value === i ? 'bg-brass-bright' : 'bg-slate'}`}
              style={{ width: `${(100 * spread.values[i]) / most}%` }}
            />
          </div>
        </li>
      ))}
    </ul>
  )
}

function Empty() {
  return <p className="py-10 text-[20px] text-ink-soft">No answer yet.</p>
}
