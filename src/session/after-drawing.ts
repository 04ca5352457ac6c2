/** Work of the page on a frame that calls for no rest, in milliseconds: nobody notices that a click waits so long. */
const QUICK = 50

/**
 * Calls back when what was just put on the page has been drawn; where that was much work, after as long a rest: however fast a
 * worker is, half of the page's time is left for the person at it. What it waits for a screen is no work.
 */
export function afterDrawing(done: () => void): void {
  // Without a screen, as in tests, nothing is drawn.
  if (typeof requestAnimationFrame === 'undefined') return void setTimeout(done)
  let work = 0
  const began = performance.now()
  // The task at hand has ended when the next one has its turn.
  setTimeout(() => (work += performance.now() - began))
  requestAnimationFrame(() => {
    const drawing = performance.now()
    // A task that is begun in a frame has its turn after that frame was drawn.
    setTimeout(() => {
      work += performance.now() - drawing
      if (work > QUICK) setTimeout(done, Math.min(work, 250))
      else done()
    })
  })
}
