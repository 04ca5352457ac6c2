import type { Place } from '../board/board-canvas'
import { Button } from '../parts/Button'
import { ProblemList } from '../parts/ProblemList'
import { useAttempt } from '../parts/use-attempt'
import { SpreadView } from './SpreadView'
import { useAsked } from './use-asked'

/** Pixels of the panel, and between it and what it is about. */
const WIDTH = 400
const GAP = 14
/** Pixels left for the foot of a presentation, which lies above it. */
const BELOW = 80

/** The answers to what is covered, beside its place on the board, as they grow; then what is true. */
export function AskedPanel({
  classId,
  id,
  place,
  onReveal,
  onClose,
}: {
  classId: string
  /** The number of the question. */
  id: string
  /** Where it is covered, in the window; null while that is not shown. */
  place: Place | null
  /** The answer was shown to the class: what is covered is uncovered. */
  onReveal(): void
  onClose(): void
}) {
  const { asked, become } = useAsked(classId, id)
  const { problems, attempt } = useAttempt()
  if (!asked) return null
  const { question, state, spread, truth } = asked
  const revealed = state === 'revealed'
  return (
    <section
      aria-label="Answers of the class"
      className="fixed z-40 flex flex-col gap-3 rounded-sm border-2 border-ink bg-sheet p-4 shadow-lg"
      style={{ width: WIDTH, ...beside(place) }}
    >
      <h2 className="font-title text-[20px] leading-6 font-semibold">{question.text}</h2>
      <p className="text-[15px] text-ink-soft" aria-live="polite">
        {spread.answers} answer{spread.answers === 1 ? '' : 's'}
        {state === 'open' ? ' so far' : ''}
      </p>
      <div className="min-h-0 overflow-y-auto">
        <SpreadView question={question} spread={spread} truth={revealed ? truth : null} compact />
      </div>
      <div className="flex flex-wrap gap-2">
        {!revealed && (
          <Button
            look="ink"
            onClick={() =>
              void attempt(async () => {
                await become('revealed')
                onReveal()
              })
            }
          >
            {truth ? 'Reveal the answer' : 'Show the results to the class'}
          </Button>
        )}
        <Button onClick={onClose}>Close</Button>
      </div>
      <ProblemList problems={problems} />
    </section>
  )
}

/** Beside a place of the window, on the side where there is more room. */
function beside(place: Place | null): { left: number; top: number; maxHeight: number } {
  const { innerWidth, innerHeight } = window
  const top = Math.max(GAP, Math.min(place?.top ?? 0, innerHeight * 0.25))
  const maxHeight = innerHeight - top - BELOW
  if (!place) return { left: innerWidth - WIDTH - GAP, top, maxHeight }
  const right = place.left + place.width + GAP
  const left =
    right + WIDTH + GAP <= innerWidth ? right : Math.max(GAP, Math.min(place.left, innerWidth) - WIDTH - GAP)
  return { left, top, maxHeight }
}
