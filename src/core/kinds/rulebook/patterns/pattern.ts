/** A small complete rulebook to begin with. */
export interface Pattern {
  readonly title: string
  /** What kind of problem it is, in a few words. */
  readonly what: string
  /** What to change first, and see what becomes of it: a piece of the text, and what to write instead. */
  readonly change: { readonly says: string; readonly from: string; readonly to: string }
  readonly discount: number
  /** Steps after which an episode is cut off. */
  readonly cap: number
  readonly text: string
}
