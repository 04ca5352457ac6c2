import alarmBeam from '../../../demo/alarm-beam.json'
import nightRounds from '../../../demo/night-rounds.json'
import { checkEnvironment } from '../../core/environment/document'
import type { Database } from '../db/schema'
import { countEnvironments, createEnvironment } from '../repositories/environments'

/** The Quillhaven Museum, in the order of the shelf. */
const DEMO = [nightRounds, alarmBeam]

/** Puts the demo environments on a shelf on which nothing ever stood. */
export async function loadDemoShelf(db: Database): Promise<void> {
  if ((await countEnvironments(db)) > 0) return
  const now = Date.now()
  // A second apart, so that the first one stands first.
  for (const [i, document] of DEMO.entries())
    await createEnvironment(db, checkEnvironment(document), new Date(now - i * 1000))
}
