import { normalDensity, normalQuantile } from '../../random/normal'

/** What a pull pays. */
export type PayOff =
  /** `reward` with the chance, else nothing. */
  | { readonly type: 'bernoulli'; readonly chance: number; readonly reward: number }
  | { readonly type: 'gaussian'; readonly mean: number; readonly deviation: number }
  | { readonly type: 'uniform'; readonly low: number; readonly high: number }
  | {
      readonly type: 'categorical'
      readonly outcomes: readonly { readonly reward: number; readonly weight: number }[]
    }

/** A reward and how likely it is. */
export interface Prize {
  readonly reward: number
  readonly probability: number
}

/** Equally likely prizes: each is at + by × one of `of`. */
export interface Slices {
  readonly at: number
  readonly by: number
  /** In their order. */
  readonly of: readonly number[]
}

interface PayOffKind<P extends PayOff> {
  readonly title: string
  readonly plain: P
  mean(pays: P): number
  /** The prizes of the model: exact where there are few, else equally likely slices with the same mean and spread. */
  prizes(pays: P): readonly Prize[]
  /** For continuous ones, of which all slices are equally likely: a prize is at + by × slice. Null for a single one. */
  slices?(pays: P): Slices | null
  /** What is paid after the mean has wandered by `shift`. */
  shifted(pays: P, shift: number): P
  /** What people read. */
  text(pays: P): string
}

/** Slices of a continuous pay-off. */
const SLICES = 32

/** Each kind of pay-off, once. */
export const PAY_OFFS: { readonly [T in PayOff['type']]: PayOffKind<Extract<PayOff, { type: T }>> } = {
  bernoulli: {
    title: 'Bernoulli',
    plain: { type: 'bernoulli', chance: 0.5, reward: 1 },
    mean: ({ chance, reward }) => chance * reward,
    prizes: ({ chance, reward }) =>
      [
        { reward: 0, probability: 1 - chance },
        { reward, probability: chance },
      ].filter(({ probability }) => probability > 0),
    // The chance is what wanders; at 0 and 1 it turns back.
    shifted: (pays, shift) => ({ ...pays, chance: folded(pays.chance + shift) }),
    text: ({ chance, reward }) => `${short(reward)} with chance ${short(chance)}`,
  },
  gaussian: {
    title: 'Gaussian',
    plain: { type: 'gaussian', mean: 0, deviation: 1 },
    mean: ({ mean }) => mean,
    prizes: (pays) => slicePrizes(PAY_OFFS.gaussian.slices!(pays), pays.mean),
    slices: ({ mean, deviation }) =>
      deviation === 0 ? null : { at: mean, by: deviation, of: GAUSSIAN_SLICES },
    shifted: ({ type, mean, deviation }, shift) => ({ type, mean: mean + shift, deviation }),
    text: ({ mean, deviation }) => `around ${short(mean)}, deviation ${short(deviation)}`,
  },
  uniform: {
    title: 'Uniform',
    plain: { type: 'uniform', low: 0, high: 1 },
    mean: ({ low, high }) => low + (high - low) / 2,
    prizes: (pays) => slicePrizes(PAY_OFFS.uniform.slices!(pays), pays.low),
    slices: ({ low, high }) =>
      low === high ? null : { at: low + (high - low) / 2, by: (high - low) / 2, of: UNIFORM_SLICES },
    shifted: ({ type, low, high }, shift) => ({ type, low: low + shift, high: high + shift }),
    text: ({ low, high }) => `anything from ${short(low)} to ${short(high)}`,
  },
  categorical: {
    title: 'Categorical',
    plain: {
      type: 'categorical',
      outcomes: [
        { reward: 0, weight: 1 },
        { reward: 1, weight: 1 },
      ],
    },
    mean: (pays) => prizesOf(pays).reduce((sum, { reward, probability }) => sum + reward * probability, 0),
    prizes: ({ outcomes }) => {
      const total = outcomes.reduce((sum, { weight }) => sum + weight, 0)
      return outcomes.map(({ reward, weight }) => ({ reward, probability: weight / total }))
    },
    shifted: ({ type, outcomes }, shift) => ({
      type,
      outcomes: outcomes.map((outcome) => ({ ...outcome, reward: outcome.reward + shift })),
    }),
    text: (pays) =>
      prizesOf(pays)
        .map(({ reward, probability }) => `${short(reward)} with ${short(probability)}`)
        .join(', '),
  },
}

export function meanOf(pays: PayOff): number {
  return kindOf(pays).mean(pays)
}

export function prizesOf(pays: PayOff): readonly Prize[] {
  return kindOf(pays).prizes(pays)
}

/** @returns null for pay-offs that are no slices */
export function slicesOf(pays: PayOff): Slices | null {
  return kindOf(pays).slices?.(pays) ?? null
}

function slicePrizes(slices: Slices | null, single: number): Prize[] {
  return slices
    ? slices.of.map((slice) => ({ reward: slices.at + slices.by * slice, probability: 1 / SLICES }))
    : [{ reward: single, probability: 1 }]
}

export function shiftedBy(pays: PayOff, shift: number): PayOff {
  return shift === 0 ? pays : kindOf(pays).shifted(pays, shift)
}

export function payOffText(pays: PayOff): string {
  return kindOf(pays).text(pays)
}

function kindOf(pays: PayOff): PayOffKind<PayOff> {
  return PAY_OFFS[pays.type] as PayOffKind<PayOff>
}

/** Means of equally likely slices of the standard normal, stretched so that mean 0 and deviation 1 are kept exactly. */
const GAUSSIAN_SLICES: readonly number[] = (() => {
  const density = Array.from({ length: SLICES + 1 }, (_, i) =>
    i === 0 || i === SLICES ? 0 : normalDensity(normalQuantile(i / SLICES)),
  )
  return standardised(Array.from({ length: SLICES }, (_, i) => SLICES * (density[i] - density[i + 1])))
})()

/** The same for the uniform distribution from -1 to 1, whose deviation is 1 / sqrt(3). */
const UNIFORM_SLICES: readonly number[] = standardised(
  Array.from({ length: SLICES }, (_, i) => (2 * i + 1) / SLICES - 1),
).map((u) => u / Math.sqrt(3))

function standardised(values: number[]): number[] {
  // Symmetric by construction; the halves are made equal so that the mean is 0 to the last bit.
  const upper = values.slice(SLICES / 2).map((value, i) => (value - values[SLICES / 2 - 1 - i]) / 2)
  const deviation = Math.sqrt((2 * upper.reduce((sum, value) => sum + value * value, 0)) / SLICES)
  const scaled = upper.map((value) => value / deviation)
  return [...scaled.map((value) => -value).reverse(), ...scaled]
}

/** A number reflected at 0 and 1 until it lies between them. */
function folded(x: number): number {
  const within = Math.abs(x) % 2
  return within > 1 ? 2 - within : within
}

function short(value: number): string {
  return String(Number(value.toPrecision(4)))
}
