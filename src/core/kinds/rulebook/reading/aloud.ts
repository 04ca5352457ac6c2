import { listed } from '../place'

type Reading = (...parts: readonly string[]) => string

/** How the functions of the language are read; a test looks that none is missing. */
export const FUNCTIONS_ALOUD: Readonly<Record<string, Reading>> = {
  min: (...all) => `the smallest of ${listed(all)}`,
  max: (...all) => `the largest of ${listed(all)}`,
  within: (x, low, high) => `${x} held between ${low} and ${high}`,
  abs: (x) => `${x} without its sign`,
  round: (x) => `${x} rounded`,
  floor: (x) => `${x} rounded down`,
  ceil: (x) => `${x} rounded up`,
  sqrt: (x) => `the square root of ${x}`,
  exp: (x) => `e to the power ${x}`,
  sin: (x) => `the sine of ${x}`,
  cos: (x) => `the cosine of ${x}`,
  sum: (list) => `the sum of ${list}`,
  count: (list, value) => `how many of ${list} are ${value ?? 'yes'}`,
  place: (list, value) => `the first place of ${value ?? 'a yes'} in ${list}`,
  any: (list) => `any of ${list}`,
  all: (list) => `all of ${list}`,
  sorted: (list) => `${list} sorted`,
  length: (list) => `the length of ${list}`,
  shift: (list, added) => `${list} without the first item and with ${added} at the end`,
  put: (list, at, added) => `${list} with ${added} at place ${at}`,
  swap: (list, one, other) => `${list} with places ${one} and ${other} exchanged`,
  turn: (list, steps) => `${list} turned round by ${steps}`,
}

/** How draws are read, after “is”. */
export const DRAWS_ALOUD: Readonly<Record<string, Reading>> = {
  poisson: (mean) => `a Poisson number with mean ${mean}`,
  geometric: (chance) => `the number of failures before a success that has the chance ${chance}`,
  binomial: (tries, chance) => `how many of ${tries} tries succeed, each with the chance ${chance}`,
  uniform: (low, high) => `any whole number from ${low} to ${high}, all as likely`,
  normal: (mean, spread) => `a whole number around ${mean}, normal with the spread ${spread}`,
  coin: (chance) => `yes with the chance ${chance}, otherwise no`,
}
