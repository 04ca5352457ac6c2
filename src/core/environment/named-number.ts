/** A number of the document that can be turned by a name of its own. Its value is the number itself. */
export interface NamedNumber {
  readonly name: string
  /** Which number, as `numbersOf` names it: `veer`, `endings[J4].reward`. */
  readonly sets: string
  readonly low: number
  readonly high: number
  readonly step: number
}
