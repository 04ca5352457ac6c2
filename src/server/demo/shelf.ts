import { randomInt } from 'node:crypto'
import alarmBeam from '../../../demo/alarm-beam.json'
import cloakroomQueue from '../../../demo/cloakroom-queue.json'
import conservatorsHumidity from '../../../demo/conservators-humidity.json'
import escalatorCare from '../../../demo/escalator-care.json'
import eveningTickets from '../../../demo/evening-tickets.json'
import nightRounds from '../../../demo/night-rounds.json'
import sameLookingDoors from '../../../demo/same-looking-doors.json'
import vaultDial from '../../../demo/vault-dial.json'
import draughtyHall from '../../../demo/draughty-hall.json'
import whichPoster from '../../../demo/which-poster.json'
import audioGuideTip from '../../../demo/audio-guide-tip.json'
import loansOfTheSeason from '../../../demo/loans-of-the-season.json'
import docentsRound from '../../../demo/docents-round.json'
import lampAtTheWall from '../../../demo/lamp-at-the-wall.json'
import guideAndTheKitchen from '../../../demo/guide-and-the-kitchen.json'
import trolleyOnTheRamp from '../../../demo/trolley-on-the-ramp.json'
import firstTour from '../../../demo/lessons/first-tour.json'
import valuesAndSweeps from '../../../demo/lessons/values-and-sweeps.json'
import policyOrValueIteration from '../../../demo/lessons/policy-or-value-iteration.json'
import whatADiscountDoes from '../../../demo/lessons/what-a-discount-does.json'
import qLearningStepByStep from '../../../demo/lessons/q-learning-step-by-step.json'
import explorationAndItsDecay from '../../../demo/lessons/exploration-and-its-decay.json'
import traces from '../../../demo/lessons/traces.json'
import bandits from '../../../demo/lessons/bandits.json'
import policySearch from '../../../demo/lessons/policy-search.json'
import modellingABusinessProblem from '../../../demo/lessons/modelling-a-business-problem.json'
import onAndOffPolicyLesson from '../../../demo/lessons/on-and-off-policy.json'
import openTheVault from '../../../demo/exercises/open-the-vault.json'
import pricesOfTheLastTour from '../../../demo/exercises/prices-of-the-last-tour.json'
import wayOfTheLampRobot from '../../../demo/exercises/way-of-the-lamp-robot.json'
import howManyBuckets from '../../../demo/comparisons/how-many-buckets.json'
import impossibleActions from '../../../demo/comparisons/impossible-actions.json'
import onAndOffPolicy from '../../../demo/comparisons/on-and-off-policy.json'
import { checkComparison } from '../../core/compare/read-comparison'
import { checkEnvironment } from '../../core/environment/document'
import type { Lesson } from '../../core/lesson/lesson-document'
import type { Exercise } from '../../core/exercise/exercise'
import { checkExercise } from '../../core/exercise/read-exercise'
import { checkLesson } from '../../core/lesson/read-lesson'
import { createExercise } from '../repositories/exercises'
import { createLesson } from '../repositories/lessons'
import { insertComparison } from '../repositories/comparisons'
import { countEnvironments, countWaiting, createEnvironment } from '../repositories/environments'
import type { Database } from '../db/schema'
import { inTransaction } from '../db/transaction'

/** The Quillhaven Museum, in the order of the shelf. */
const DEMO: readonly object[] = [
  nightRounds,
  alarmBeam,
  draughtyHall,
  whichPoster,
  audioGuideTip,
  loansOfTheSeason,
  eveningTickets,
  escalatorCare,
  cloakroomQueue,
  conservatorsHumidity,
  sameLookingDoors,
  vaultDial,
  docentsRound,
  // These do not learn as they stand, for a class to find out why.
  lampAtTheWall,
  guideAndTheKitchen,
  trolleyOnTheRamp,
]

/** What the demos are called in lessons: as their files. */
const BY_NAME = {
  'night-rounds': nightRounds,
  'alarm-beam': alarmBeam,
  'draughty-hall': draughtyHall,
  'which-poster': whichPoster,
  'audio-guide-tip': audioGuideTip,
  'loans-of-the-season': loansOfTheSeason,
  'evening-tickets': eveningTickets,
  'escalator-care': escalatorCare,
  'cloakroom-queue': cloakroomQueue,
  'conservators-humidity': conservatorsHumidity,
  'same-looking-doors': sameLookingDoors,
  'vault-dial': vaultDial,
  'docents-round': docentsRound,
  'lamp-at-the-wall': lampAtTheWall,
  'guide-and-the-kitchen': guideAndTheKitchen,
  'trolley-on-the-ramp': trolleyOnTheRamp,
} as const

/** Lessons that are ready, in the order in which they are given. */
const LESSONS: readonly SaidLesson[] = [
  firstTour,
  valuesAndSweeps,
  policyOrValueIteration,
  whatADiscountDoes,
  qLearningStepByStep,
  onAndOffPolicyLesson,
  explorationAndItsDecay,
  traces,
  bandits,
  policySearch,
  modellingABusinessProblem,
]

/** Comparisons that are ready, with the environment that each belongs to. */
const COMPARISONS = [
  [alarmBeam, onAndOffPolicy],
  [conservatorsHumidity, howManyBuckets],
  [cloakroomQueue, impossibleActions],
] as const

/** Exercises that are ready. */
const EXERCISES: readonly SaidExercise[] = [wayOfTheLampRobot, openTheVault, pricesOfTheLastTour]

/** A demo exercise as its file says it: its environment is the name of the demo. */
interface SaidExercise {
  readonly environment: { readonly demo: string }
  readonly seeds: { readonly open: number }
}

/** An exercise of the demo shelf. @param hidden  the seed that it counts with in the end */
export function demoExercise(said: SaidExercise, hidden: number): Exercise {
  const environment = BY_NAME[said.environment.demo as keyof typeof BY_NAME]
  return checkExercise({ ...said, environment, seeds: { ...said.seeds, hidden } })
}

/** A demo lesson as its file says it: of its environments the name of the demo, or the document where it is none. */
interface SaidLesson {
  readonly environments: Readonly<Record<string, { readonly demo: string } | { readonly document: object }>>
}

/** A lesson of the demo shelf. @param shelfOf  the number of a demo on the shelf; null where it does not stand there */
export function demoLesson(said: SaidLesson, shelfOf: (demo: object) => string | null): Lesson {
  return checkLesson({
    ...said,
    environments: Object.fromEntries(
      Object.entries(said.environments).map(([key, each]) => {
        if ('document' in each) return [key, { shelf: null, document: each.document }]
        const document = BY_NAME[each.demo as keyof typeof BY_NAME]
        return [key, { shelf: shelfOf(document), document }]
      }),
    ),
  })
}

/** Puts the demo environments on a shelf on which nothing ever stood, with their comparisons. */
export async function loadDemoShelf(db: Database): Promise<void> {
  if ((await countEnvironments(db)) > 0) return
  // Two that begin at once put it there once.
  await inTransaction(db, loadInto)
  await countWaiting(db)
}

async function loadInto(db: Database): Promise<void> {
  if ((await countEnvironments(db)) > 0) return
  const now = Date.now()
  const shelf = new Map<object, string>()
  // A second apart, so that the first one stands first.
  for (const [i, demo] of DEMO.entries()) {
    const document = checkEnvironment(demo)
    const { id } = await createEnvironment(db, document, new Date(now - i * 1000))
    shelf.set(demo, id)
    for (const [of, comparison] of COMPARISONS)
      if (of === demo) await insertComparison(db, id, checkComparison(comparison, document))
  }
  for (const [i, said] of LESSONS.entries()) {
    const lesson = demoLesson(said, (demo) => shelf.get(demo) ?? null)
    await createLesson(db, lesson, new Date(now + i))
  }
  for (const [i, said] of EXERCISES.entries()) {
    // Nobody knows it beforehand, though everybody has the files.
    const exercise = demoExercise(said, randomInt(2 ** 32))
    const stored = { name: exercise.name, text: JSON.stringify(exercise) }
    await createExercise(db, stored, new Date(now - i))
  }
}
