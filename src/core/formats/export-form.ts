/** A form in which an environment can be taken away. @typeParam D document @typeParam C compiled environment */
export interface ExportForm<D, C> {
  readonly title: string
  /** What the file's name ends with, after the name of the environment. */
  readonly ending: string
  readonly type: string
  /** Whether the model is needed. */
  readonly needsModel: boolean
  write(document: D, compiled: C): string
  /** What the environment is that this form cannot say, a sentence each; for forms that are read again. */
  losses?(document: D, compiled: C): string[]
}

/** A form whose writer is loaded when it is wanted: pages stay small. It is not read again. */
export type LateForm<D, C> = Omit<ExportForm<D, C>, 'write' | 'losses'> & {
  load(): Promise<ExportForm<D, C>['write']>
}
