import { compileEnvironment } from '../environment/compile'
import { makeCheckpoint, type Checkpoint } from '../learn/checkpoint'
import { World } from '../learn/world'
import { gridDocument } from './models'

/** A hall of four cells with a door. */
export const HALL = {
  ...gridDocument(['..', '..'], { endings: [{ at: 'B2', reward: 1, name: '' }] }),
  name: 'Hall',
}

/** A table that was learned on it. */
export function hallTable(name: string): Checkpoint {
  const { model } = compileEnvironment(HALL)
  return makeCheckpoint(new World(model), new Float64Array(model.rows).fill(0.1), {
    name,
    environment: HALL.name,
    method: 'q-learning',
    holds: 'action values',
    settings: {},
    steps: 10,
    episodes: 2,
  })
}
