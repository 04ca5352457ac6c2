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
import howManyBuckets from '../../../demo/comparisons/how-many-buckets.json'
import impossibleActions from '../../../demo/comparisons/impossible-actions.json'
import onAndOffPolicy from '../../../demo/comparisons/on-and-off-policy.json'
import { checkComparison } from '../../core/compare/read-comparison'
import { checkEnvironment } from '../../core/environment/document'
import { insertComparison } from '../repositories/comparisons'
import { countEnvironments, countWaiting, createEnvironment } from '../repositories/environments'
import type { Database } from '../db/schema'
import { inTransaction } from '../db/transaction'

/** The Quillhaven Museum, in the order of the shelf. */
const DEMO = [
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

/** Comparisons that are ready, with the environment that each belongs to. */
const COMPARISONS = [
  [alarmBeam, onAndOffPolicy],
  [conservatorsHumidity, howManyBuckets],
  [cloakroomQueue, impossibleActions],
] as const

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
  // A second apart, so that the first one stands first.
  for (const [i, demo] of DEMO.entries()) {
    const document = checkEnvironment(demo)
    const { id } = await createEnvironment(db, document, new Date(now - i * 1000))
    for (const [of, comparison] of COMPARISONS)
      if (of === demo) await insertComparison(db, id, checkComparison(comparison, document))
  }
}
