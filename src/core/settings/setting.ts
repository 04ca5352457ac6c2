/** What a number may be. */
export interface NumberRange {
  readonly min: number
  readonly max: number
  /** True when `min` itself is too small. */
  readonly aboveMin?: boolean
  readonly whole?: boolean
  readonly unit?: string
}

/** How a setting is given on the command line. */
export interface Flag {
  /** Without its dashes. */
  readonly name: string
  readonly argument: string
  readonly help: string
}

interface Described {
  /** What it is called, beside its field. */
  readonly label: string
  /** What it does, in one sentence. */
  readonly hint: string
  /** Null where it cannot be given by a flag. */
  readonly flag: Flag | null
  /** Among the first fields, among those that are folded away, or without a field. */
  readonly shown: 'first' | 'more' | 'never'
  /** What there must be in the environment for it to mean anything. */
  readonly needs: 'levels' | null
  /** How a line of settings begins that names it; null where it is left out of such lines. */
  readonly brief: string | null
}

export interface NumberSetting extends Described, NumberRange {
  readonly type: 'number'
  /** Null where the environment or the method says what it is to begin with. */
  readonly usual: number | null
}

export interface ChoiceSetting<V extends string = string> extends Described {
  readonly type: 'choice'
  readonly usual: V
  /** What each value is called. */
  readonly options: Readonly<Record<V, string>>
}

/** A number that belongs to one of several kinds. */
export interface KindNumber extends NumberRange {
  readonly label: string
  readonly hint: string
}

/** One of several kinds, each with numbers of its own. */
export interface KindSetting<
  V extends { readonly kind: string } = { readonly kind: string },
> extends Described {
  readonly type: 'kind'
  readonly usual: V
  readonly kinds: {
    readonly [K in V['kind']]: {
      readonly title: string
      /** What it is when it is chosen. */
      readonly usual: Extract<V, { kind: K }>
      readonly numbers: { readonly [N in Exclude<keyof Extract<V, { kind: K }>, 'kind'>]: KindNumber }
    }
  }
}

/** A setting with a form of its own: its fields are made for it. */
export interface OwnSetting<V = unknown> extends Described {
  readonly type: 'own'
  /** Null where the environment or the method says what it is to begin with. */
  readonly usual: V | null
  /** What a flag stands for. */
  fromFlag?: { readonly range: NumberRange; read(value: number): V }
  /** Its value in a few letters. */
  inBrief(value: V): string
}

export type Setting = NumberSetting | ChoiceSetting | KindSetting | OwnSetting

/** What a setting holds. */
export type ValueOf<S> = S extends { readonly type: 'number' }
  ? number
  : S extends ChoiceSetting<infer V>
    ? V
    : S extends { readonly type: 'kind'; readonly usual: infer V }
      ? V
      : S extends OwnSetting<infer V>
        ? V
        : never

type Words = Pick<Described, 'label' | 'hint'> &
  Partial<Pick<Described, 'flag' | 'brief' | 'shown' | 'needs'>>

const PLAIN = { flag: null, brief: null, shown: 'first', needs: null } as const

export function number(words: Words & NumberRange & { readonly usual: number | null }): NumberSetting {
  return { type: 'number', ...PLAIN, ...words }
}

export function choice<const V extends string>(
  words: Words & { readonly usual: NoInfer<V>; readonly options: Readonly<Record<V, string>> },
): ChoiceSetting<V> {
  return { type: 'choice', ...PLAIN, ...words }
}

export function kind<V extends { readonly kind: string }>(
  words: Words & Pick<KindSetting<V>, 'usual' | 'kinds'>,
): KindSetting<V> {
  return { type: 'kind', ...PLAIN, ...words }
}

export function own<V>(words: Words & Pick<OwnSetting<V>, 'usual' | 'fromFlag' | 'inBrief'>): OwnSetting<V> {
  return { type: 'own', ...PLAIN, ...words }
}

/** The setting that a flag asks for. @param value  checked by {@link flagSchema} */
export function fromFlag(setting: Setting, value: unknown): unknown {
  return setting.type === 'own' && setting.fromFlag ? setting.fromFlag.read(value as number) : value
}
