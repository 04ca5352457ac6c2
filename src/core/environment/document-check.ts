/** A step of an episode that is expected: the action, where it leads, and what it pays where that is not said by that. */
export interface ExpectedStep {
  readonly action: string
  readonly to?: string
  readonly reward?: number
}

/**
 * What an author expects of an environment, and what is looked at after every change. Policies are `random`, `optimum`,
 * `drawn`, `always ACTION`, or the title of a written one.
 */
export type DocumentCheck =
  /** The best value of a state, or of the start, is a number. */
  | { readonly kind: 'value'; readonly state?: string; readonly is: number; readonly within: number }
  /** An episode can come to a state, or cannot. */
  | { readonly kind: 'reachable'; readonly state: string; readonly expected: boolean }
  /** Certain steps are possible, and have a return, discounted. */
  | {
      readonly kind: 'episode'
      /** The only start when left out. */
      readonly start?: string
      readonly steps: readonly ExpectedStep[]
      readonly return: number
      readonly within: number
    }
  /** A policy is worth more from the start than another one, by more than a number. */
  | { readonly kind: 'better'; readonly policy: string; readonly than: string; readonly by: number }
  /** A rule of Check finds nothing, or finds something. */
  | { readonly kind: 'rule'; readonly rule: string; readonly expected: 'holds' | 'broken' }

export type DocumentCheckKind = DocumentCheck['kind']
