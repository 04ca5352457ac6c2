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
import { checkEnvironment } from '../../core/environment/document'
import { countEnvironments, createEnvironment } from '../repositories/environments'
import type { Database } from '../db/schema'

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
]

/** Puts the demo environments on a shelf on which nothing ever stood. */
export async function loadDemoShelf(db: Database): Promise<void> {
  if ((await countEnvironments(db)) > 0) return
  const now = Date.now()
  // A second apart, so that the first one stands first.
  for (const [i, document] of DEMO.entries())
    await createEnvironment(db, checkEnvironment(document), new Date(now - i * 1000))
}
