/** The keys that take the first, second … possible action; the others of the row move the view. */
export const ACTION_KEYS: readonly string[] = ['a', 's', 'd', 'f', 'g', 'h', 'j', 'k', 'l']
