import { PLAIN_COMPILED, type Compilation, type KindCompiler } from '../kind'
import { RulebookCompiler } from './enumerate'
import type { CompiledRules, RulebookEnvironment } from './kind'
import { renewRulebook } from './renew'

export const rulebookCompiler = {
  compile({ rulebook, cap }, budget): Compilation<CompiledRules> {
    const compiler = new RulebookCompiler(rulebook, cap, budget)
    return {
      get progress() {
        return compiler.progress
      },
      advance: (rows) => compiler.advance(rows),
      finish: () => ({ ...PLAIN_COMPILED, kind: 'rulebook', ...compiler.finish() }),
    }
  },
  renew(before, compiled, { rulebook }) {
    const renewed = renewRulebook(before.rulebook, compiled, rulebook)
    return renewed && { ...compiled, ...renewed }
  },
} as const satisfies KindCompiler<RulebookEnvironment, CompiledRules>
