import { choice, kind, number, type Setting } from './setting'

/** What returns are compared with before they move preferences. */
export type Baseline =
  | { readonly kind: 'none' }
  | { readonly kind: 'constant'; readonly value: number }
  /** The mean of the returns seen in earlier episodes. */
  | { readonly kind: 'mean' }
  /** A table of values, learned beside the preferences. */
  | { readonly kind: 'learned' }

/** How a gradient becomes a step. */
export type StepRule =
  | { readonly kind: 'plain' }
  /** Each step goes on with this part of the one before (Polyak 1964). */
  | { readonly kind: 'momentum'; readonly keep: number }
  /** Kingma & Ba 2015 */
  | { readonly kind: 'adam'; readonly first: number; readonly second: number }

/** What the probabilities of actions are made from. */
export type PolicyShape =
  | { readonly kind: 'softmax' }
  /** Where actions are levels of a number: a normal distribution over them, as parts of their range. */
  | {
      readonly kind: 'gaussian'
      /** The standard deviation to begin with. */
      readonly spread: number
      /** The least it may become. */
      readonly floor: number
      /** How much wider it is while the level at the mean was never tried: times 1 + wider / √(1 + times tried). */
      readonly wider: number
    }

/** Larger numbers are none that anybody means. */
export const LARGE = 1e9

/** The settings of policy search: of the softmax, of gradients and their steps, of searches by returns. */
export const POLICY_SETTINGS = {
  /** What preferences are divided by before the softmax. */
  temperature: number({
    label: 'Temperature',
    hint: 'Preferences are divided by it before the softmax: the higher, the more alike the probabilities.',
    min: 0,
    max: LARGE,
    aboveMin: true,
    usual: 1,
    flag: { name: 'temperature', argument: '<number>', help: 'of a softmax over preferences; default 1' },
  }),
  shape: kind<PolicyShape>({
    label: 'Policy',
    needs: 'levels',
    hint: 'A preference for each action; or, where actions are levels of a number such as a price, a Gaussian over them with a mean and a spread for each observation (Williams 1992, section 6).',
    usual: { kind: 'softmax' },
    kinds: {
      softmax: { title: 'softmax', usual: { kind: 'softmax' }, numbers: {} },
      gaussian: {
        title: 'Gaussian',
        usual: { kind: 'gaussian', spread: 0.3, floor: 0.05, wider: 0.5 },
        numbers: {
          spread: {
            label: 'Spread at first',
            hint: 'The standard deviation to begin with, as a part of the range of the levels.',
            min: 0,
            max: 10,
            aboveMin: true,
          },
          floor: {
            label: 'Minimum spread',
            hint: 'The standard deviation never becomes smaller than this part of the range, so that something is always tried.',
            min: 0.001,
            max: 10,
          },
          wider: {
            label: 'Wider if untried',
            hint: 'The spread counts 1 + this / √(1 + n) times, where n is how often the level nearest to the mean was taken: what is new is explored more.',
            min: 0,
            max: 100,
          },
        },
      },
    },
  }),
  /** Whether later steps of an episode count less, as the gradient of the start’s value wants it. */
  weighting: choice({
    label: 'Weight of a step',
    hint: 'The gradient of the value at the start weighs step t by discountᵗ. With equal weights late steps count as much as early ones, but that is no longer this gradient.',
    options: { discounted: 'discountᵗ', equal: 'equal' },
    usual: 'discounted',
    flag: { name: 'weighting', argument: '<kind>', help: 'how the steps of an episode are weighed' },
  }),
  baseline: kind<Baseline>({
    label: 'Baseline',
    hint: 'What is subtracted from a return: it changes the variance of the gradient, not its mean.',
    usual: { kind: 'none' },
    kinds: {
      none: { title: 'none', usual: { kind: 'none' }, numbers: {} },
      constant: {
        title: 'a constant',
        usual: { kind: 'constant', value: 0 },
        numbers: {
          value: {
            label: 'Baseline is',
            hint: 'Taken off every return.',
            min: -LARGE,
            max: LARGE,
          },
        },
      },
      mean: { title: 'mean so far', usual: { kind: 'mean' }, numbers: {} },
      learned: { title: 'learned values', usual: { kind: 'learned' }, numbers: {} },
    },
  }),
  /** Whether the exact gradient is followed, or the natural one. */
  direction: choice({
    label: 'Direction',
    hint: 'The natural gradient takes into account how much a preference changes the probabilities: it moves each preference by its advantage.',
    options: { gradient: 'gradient', natural: 'natural gradient' },
    usual: 'gradient',
    flag: { name: 'direction', argument: '<kind>', help: 'which gradient exact ascent follows' },
  }),
  /** Candidates a search tries before it moves. */
  candidates: number({
    label: 'Candidates',
    hint: 'How many policies are tried before the search moves.',
    whole: true,
    min: 1,
    max: 1000,
    usual: 20,
    flag: { name: 'candidates', argument: '<count>', help: 'policies a search tries before it moves' },
  }),
  trialsEach: number({
    label: 'Episodes per candidate',
    hint: 'How many episodes a policy plays before it is judged by their mean return.',
    whole: true,
    min: 1,
    max: 10_000,
    usual: 5,
    flag: { name: 'trials-each', argument: '<count>', help: 'episodes by which a search judges a policy' },
  }),
  /** Standard deviation of what is added to preferences to make another policy. */
  radius: number({
    label: 'Radius',
    hint: 'How far a candidate’s preferences are from those it was made from: their standard deviation.',
    min: 0,
    max: 1000,
    aboveMin: true,
    usual: 1,
    flag: { name: 'radius', argument: '<number>', help: 'how far candidates of a search are apart' },
  }),
  elite: number({
    label: 'Elite share',
    hint: 'The share of the candidates with the highest returns, from which the next ones are drawn.',
    min: 0,
    max: 1,
    aboveMin: true,
    usual: 0.25,
    flag: { name: 'elite', argument: '<share>', help: 'the part of the candidates that cross-entropy keeps' },
  }),
  patience: number({
    label: 'Restart after (failures)',
    hint: 'After so many candidates in a row that were no better, the search begins again somewhere else. The best policy so far is kept.',
    whole: true,
    min: 1,
    max: 10_000,
    usual: 50,
    flag: { name: 'patience', argument: '<count>', help: 'failures after which hill climbing restarts' },
  }),
  stepRule: kind<StepRule>({
    label: 'Optimiser',
    shown: 'more',
    hint: 'How a gradient becomes a step.',
    usual: { kind: 'plain' },
    kinds: {
      plain: { title: 'plain gradient ascent', usual: { kind: 'plain' }, numbers: {} },
      momentum: {
        title: 'momentum',
        usual: { kind: 'momentum', keep: 0.9 },
        numbers: {
          keep: {
            label: 'Momentum',
            hint: 'How much of the previous step is kept.',
            min: 0,
            max: 0.999,
          },
        },
      },
      adam: {
        title: 'Adam',
        usual: { kind: 'adam', first: 0.9, second: 0.999 },
        numbers: {
          first: {
            label: 'Decay β₁ (mean)',
            hint: 'How much of the running mean of gradients is kept at each step.',
            min: 0,
            max: 0.9999,
          },
          second: {
            label: 'Decay β₂ (squares)',
            hint: 'How much of the running mean of squared gradients is kept at each step.',
            min: 0,
            max: 0.999999,
          },
        },
      },
    },
  }),
  normLimit: number({
    label: 'Maximum gradient norm',
    shown: 'more',
    hint: 'A gradient with a larger norm is scaled down to it. 0 is no limit.',
    min: 0,
    max: LARGE,
    usual: 0,
    flag: { name: 'norm-limit', argument: '<number>', help: 'the largest norm of a gradient; 0: no limit' },
  }),
  entropy: number({
    label: 'Entropy bonus',
    shown: 'more',
    hint: 'The policy is rewarded this much for each nat of its entropy, which keeps it exploring.',
    min: 0,
    max: LARGE,
    usual: 0,
    flag: { name: 'entropy', argument: '<number>', help: 'what a policy is paid for its entropy' },
  }),
} as const satisfies Readonly<Record<string, Setting>>
