import { inspectionOf } from '../kinds/inspections'
import type { Compiled, EnvironmentDocument } from '../kinds/kinds'
import type { KindFinding } from '../kinds/inspection'
import type { Happenings } from '../kinds/happening'
import type { Model } from '../model/model'
import { lastingComponents, type EndComponents } from '../plan/end-components'
import { stepsToEnding } from '../plan/reach'
import { solveOptimum, type Optimum } from '../plan/solve'
import type { CheckRuleId } from './rule-ids'
import type { Verdict } from './verdict'
import { roundsOf, type Rounds } from './cycles'
import { searchFrom, type Search } from './search'

/** What rules look at; what takes its time is worked out once, when the first one asks for it. */
export class CheckContext {
  readonly model: Model
  readonly discount: number
  private readonly known = new Map<string, unknown>()

  constructor(
    readonly document: EnvironmentDocument,
    readonly compiled: Compiled,
    /** What another rule says. */
    readonly judge: (rule: CheckRuleId) => Verdict,
  ) {
    this.model = compiled.model
    this.discount = document.discount
  }

  get search(): Search {
    return this.once('search', () => searchFrom(this.model))
  }

  /** [states] steps to an ending at the least, -1 where there is no way */
  get toEnding(): Int32Array {
    return this.once('toEnding', () => stepsToEnding(this.model))
  }

  get components(): EndComponents {
    return this.once('components', () => lastingComponents(this.model))
  }

  get rounds(): Rounds {
    return this.once('rounds', () => roundsOf(this.model))
  }

  /** Null where no value is finite. */
  get optimum(): Optimum | null {
    return this.once('optimum', () => solveOptimum(this.model, this.discount))
  }

  get happenings(): Happenings {
    return this.once('happenings', () => inspectionOf(this.document).happenings(this.document, this.compiled))
  }

  /** What the kind itself found. */
  get own(): readonly KindFinding[] {
    return this.once('own', () => inspectionOf(this.document).findings(this.document, this.compiled))
  }

  private once<T>(name: string, work: () => T): T {
    if (!this.known.has(name)) this.known.set(name, work())
    return this.known.get(name) as T
  }
}
