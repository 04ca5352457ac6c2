/** What a person may hand in besides a document. */
export interface Readers<D> {
  /** Forms that are told by the ending of the file, with its point. */
  readonly endings: Readonly<Record<string, (name: string, text: string) => D>>
  /** For text without an ending that says so: the lowest `order` that gives something is taken. */
  readonly guess?: { readonly order: number; read(name: string, text: string): D | undefined }
}
