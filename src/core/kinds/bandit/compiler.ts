import { atOnce, PLAIN_COMPILED, type KindCompiler } from '../kind'
import { compileBandit } from './compile'
import type { BanditEnvironment, CompiledBandit } from './kind'

export const banditCompiler = {
  compile: ({ bandit, cap }) =>
    atOnce((): CompiledBandit => ({ ...PLAIN_COMPILED, kind: 'bandit', ...compileBandit(bandit, cap) })),
} as const satisfies KindCompiler<BanditEnvironment, CompiledBandit>
