/** What a method is for: looking for the best policy, or finding out what a given one is worth. */
export type Purpose = 'control' | 'prediction'
