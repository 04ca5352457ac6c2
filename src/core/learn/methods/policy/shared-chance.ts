import type { RandomStream } from '../../../random/generator'

/** Lets several policies meet the same random numbers (common random numbers; Glasserman & Yao 1992). */
export class SharedChance {
  private readonly environmentAt = new Int32Array(4)
  private readonly explorationAt = new Int32Array(4)

  constructor(
    private readonly environment: RandomStream,
    private readonly exploration: RandomStream,
  ) {}

  /** From here on. */
  keep(): void {
    this.environmentAt.set(this.environment.words)
    this.explorationAt.set(this.exploration.words)
  }

  /** Once more from there. */
  again(): void {
    this.environment.words.set(this.environmentAt)
    this.exploration.words.set(this.explorationAt)
  }

  kept(): Record<string, Int32Array> {
    return { environmentAt: this.environmentAt, explorationAt: this.explorationAt }
  }
}
