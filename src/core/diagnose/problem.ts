import { compileEnvironment } from '../environment/compile'
import { documentOfRun } from '../environment/problem-of-run'
import type { Compiled, EnvironmentDocument } from '../kinds/kinds'
import { World } from '../learn/world'

/** What runs meet, with what is known of it whatever an agent does. */
export class Problem {
  readonly compiled: Compiled
  readonly world: World
  private readonly known = new Map<string, unknown>()

  constructor(readonly document: EnvironmentDocument) {
    this.compiled = compileEnvironment(document)
    this.world = new World(this.compiled.model)
  }

  /** Something that takes its time, worked out when it is first asked for. */
  once<T>(name: string, work: () => T): T {
    if (!this.known.has(name)) this.known.set(name, work())
    return this.known.get(name) as T
  }
}

/** The problems of an environment's runs: one for all of them, unless each meets one of its own. */
export class Problems {
  private readonly byDocument = new Map<EnvironmentDocument, Problem>()

  constructor(
    private readonly document: EnvironmentDocument,
    private readonly seed: number,
  ) {}

  of(run: number): Problem {
    const drawn = documentOfRun(this.document, this.seed, run)
    let problem = this.byDocument.get(drawn)
    if (!problem) this.byDocument.set(drawn, (problem = new Problem(drawn)))
    return problem
  }
}
