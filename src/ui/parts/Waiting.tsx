/** Stands where a part of the page is still being loaded; shown after a moment only, so that nothing flickers. */
export function Waiting() {
  return (
    <p role="status" className="appear-late p-2 text-[13px] text-ink-soft">
      Loading …
    </p>
  )
}
