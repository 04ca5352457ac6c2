/** A number that a snapshot takes and that going back puts again. */
export interface KeptNumber {
  take(): number
  put(value: number): void
}

/** The fields of an object that hold numbers. */
type NumberField<T> = { [Field in keyof T]-?: T[Field] extends number ? Field : never }[keyof T]

/** Those fields of an object by their names; a name it does not have, or that is no number, does not compile. */
export function numbersOf<T extends object>(
  holder: T,
  fields: readonly NumberField<T>[],
  prefix = '',
): Record<string, KeptNumber> {
  const entries = fields.map((field): [string, KeptNumber] => [
    prefix + String(field),
    {
      take: () => holder[field] as number,
      put: (value) => {
        holder[field] = value as T[typeof field]
      },
    },
  ])
  return Object.fromEntries(entries)
}
