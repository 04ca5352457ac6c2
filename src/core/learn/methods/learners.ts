import { createActorCritic, createTraceActorCritic } from './policy/wasm/fast-actor-critic'
import { CrossEntropy } from './policy/cross-entropy'
import { ExactAscent } from './policy/exact-ascent'
import { FiniteDifferences } from './policy/finite-differences'
import { GeneralisedAdvantage } from './policy/generalised-advantage'
import { HillClimbing } from './policy/hill-climbing'
import { KeepBetter } from './policy/keep-better'
import { NaturalActorCritic } from './policy/natural-actor-critic'
import { createReinforce } from './policy/wasm/fast-reinforce'
import { GradientBandit } from './policy/gradient-bandit'
import { BanditValues } from './value/bandit-values'
import { createDynaQ } from './model/wasm/fast-dyna-q'
import { MonteCarloControl, MonteCarloPrediction } from './monte-carlo/monte-carlo'
import { NStepSarsa } from './traces/n-step'
import { createTd } from './prediction/wasm/fast-td'
import { PrioritisedSweeping } from './model/prioritised-sweeping'
import { createDoubleQ } from './value/wasm/fast-double-q'
import { createOneStep } from './value/wasm/fast-one-step'
import { createTraceControl } from './traces/wasm/fast-trace-control'
import type { World } from '../world'
import type { Keeping, Learner } from '../learner'
import type { LearnSettings } from '../../settings/settings'
import type { LearnMethodId } from './methods'

/** What learns by each method: apart from their descriptions, as pages describe methods and workers run them. */
const LEARNERS: {
  readonly [Id in LearnMethodId]: (world: World, settings: LearnSettings, keeps: Keeping) => Learner
} = {
  'q-learning': (world, settings, keeps) => createOneStep(world, settings, 'best', keeps),
  sarsa: (world, settings, keeps) => createOneStep(world, settings, 'taken', keeps),
  'expected-sarsa': (world, settings, keeps) => createOneStep(world, settings, 'expected', keeps),
  'double-q-learning': createDoubleQ,
  'bandit-values': (world, settings) => new BanditValues(world, settings),
  'n-step-sarsa': (world, settings) => new NStepSarsa(world, settings),
  'sarsa-lambda': (world, settings, keeps) => createTraceControl(world, settings, false, keeps),
  'q-lambda': (world, settings, keeps) => createTraceControl(world, settings, true, keeps),
  'monte-carlo-control': (world, settings) => new MonteCarloControl(world, settings),
  'dyna-q': createDynaQ,
  'prioritised-sweeping': (world, settings) => new PrioritisedSweeping(world, settings),
  'td-0': (world, settings, keeps) => createTd(world, settings, 0, keeps),
  'td-lambda': (world, settings, keeps) => createTd(world, settings, settings.lambda, keeps),
  'monte-carlo-prediction': (world, settings) => new MonteCarloPrediction(world, settings),
  reinforce: createReinforce,
  'gradient-bandit': (world, settings) => new GradientBandit(world, settings),
  'actor-critic': createActorCritic,
  'actor-critic-lambda': createTraceActorCritic,
  'generalised-advantage': (world, settings) => new GeneralisedAdvantage(world, settings),
  'natural-actor-critic': (world, settings) => new NaturalActorCritic(world, settings),
  'exact-ascent': (world, settings) => new ExactAscent(world, settings),
  'finite-differences': (world, settings) => new FiniteDifferences(world, settings),
  'hill-climbing': (world, settings) => new HillClimbing(world, settings),
  'cross-entropy': (world, settings) => new CrossEntropy(world, settings),
  'keep-better': (world, settings) => new KeepBetter(world, settings),
}

/** A new agent that learns by a method; it keeps more than it is asked to where its kernel knows no less. */
export function createLearner(
  method: LearnMethodId,
  world: World,
  settings: LearnSettings,
  keeps: Keeping = 'workings',
): Learner {
  return LEARNERS[method](world, settings, keeps)
}
