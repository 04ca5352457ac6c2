/** What every host of the core offers and the bare ES library does not declare (see tsconfig.json beside it). */
declare class TextDecoder {
  constructor(label: string, options?: { fatal?: boolean; ignoreBOM?: boolean })
  decode(bytes: Uint8Array): string
}

declare function atob(text: string): string

declare namespace WebAssembly {
  class Memory {
    constructor(descriptor: { initial: number })
    readonly buffer: ArrayBuffer
  }
  class Module {
    constructor(bytes: Uint8Array)
  }
  class Instance {
    constructor(module: Module, imports: { env: Record<string, unknown> })
    readonly exports: Record<string, unknown>
  }
}
