/** What every host of the core offers and the bare ES library does not declare (see tsconfig.json beside it). */
declare class TextDecoder {
  constructor(label: string, options?: { fatal?: boolean; ignoreBOM?: boolean })
  decode(bytes: Uint8Array): string
}
