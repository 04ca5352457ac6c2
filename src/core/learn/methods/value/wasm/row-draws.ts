import { fillGuide, type World } from '../../../world'
import type { Room } from '../../../../wasm/room'

/** How the outcomes of rows are laid out for a kernel that draws from them. */
export type RowDraws =
  /** Few: a row is a record for up to three outcomes. Four: and every state that is no ending has four rows. */
  | { readonly layout: 'Few' | 'Four' }
  /** Many: a row has a cell for each outcome, and more behind all. */
  | {
      readonly layout: 'Many'
      /** [outcomes] the first outcome of each part of a row's range of draws: see {@link fillGuide} */
      readonly guide: Int32Array
      /** How many cells there are in all. */
      readonly cells: number
    }

/** Outcomes that a record has room for. */
const FEW = 3
const RECORD_BYTES = 48
const CELL_BYTES = 32

/** @returns null where states look alike, so that the rows of the table are not those of the model */
export function rowDrawsOf(world: World): RowDraws | null {
  const { model, threshold } = world
  const { states, rowStart, outcomeStart, observation, observations, ending } = model
  if (observations !== states) return null
  let [few, four] = [true, true]
  for (let s = 0; s < states; s++) {
    if (observation[s] !== s) return null
    if (!ending[s] && rowStart[s + 1] - rowStart[s] !== 4) four = false
    for (let r = rowStart[s]; r < rowStart[s + 1]; r++)
      if (outcomeStart[r + 1] - outcomeStart[r] > FEW) few = false
  }
  if (few) return { layout: four ? 'Four' : 'Few' }
  // A part has the outcomes from its first one to that of the next part: two in its own cell, the others in cells behind all.
  const guide = new Int32Array(model.outcomes)
  let cells = model.outcomes
  for (let r = 0; r < model.rows; r++) {
    const [from, to] = [outcomeStart[r], outcomeStart[r + 1]]
    fillGuide(guide, threshold, from, to)
    for (let cell = from; cell < to; cell++) cells += (lastOfPart(guide, cell, to) - guide[cell]) >> 1
  }
  return { layout: 'Many', guide, cells }
}

export function bytesOfDraws({ model }: World, draws: RowDraws): number {
  return draws.layout !== 'Many' ? RECORD_BYTES * model.rows : (CELL_BYTES + 4) * draws.cells
}

/**
 * What lean kernels draw from. Next states are given as base + size x their number: where something of them begins. Few outcomes: [rows x 48 bytes] the last draws that fall on the first two, three next states
 * (all bits turned for an ending), whether anything is drawn at all, three rewards. Many: [outcomes x 32 bytes] a row's
 * range of draws in as many equal parts as it has outcomes (Chen & Asau 1974), each with the first two outcomes that a draw
 * from there may fall on: their last draws, next states and rewards. Draws fall where those of {@link World} fall.
 */
export function drawRecords(
  world: World,
  draws: RowDraws,
  room: Room,
  { base, size }: { readonly base: number; readonly size: number },
): { readonly rows: ArrayBufferView } | { readonly cells: ArrayBufferView; readonly links: ArrayBufferView } {
  const { model, threshold, outcomeStart, outcomeState, outcomeReward, ending } = world
  const signed = (outcome: number) => {
    const s = outcomeState[outcome]
    const next = base + size * s
    return ending[s] ? ~next : next
  }
  if (draws.layout !== 'Many') {
    const reals = room.floats((RECORD_BYTES / 8) * model.rows)
    const ints = new Int32Array(reals.buffer, reals.byteOffset, 2 * reals.length)
    for (let r = 0; r < model.rows; r++) {
      const [first, last] = [outcomeStart[r], outcomeStart[r + 1] - 1]
      const [at, realsAt] = [r * (RECORD_BYTES / 4), r * (RECORD_BYTES / 8) + 3]
      for (let k = 0; k < FEW; k++) {
        const outcome = Math.min(first + k, last)
        if (k < 2) ints[at + k] = threshold[outcome]
        ints[at + 2 + k] = signed(outcome)
        reals[realsAt + k] = outcomeReward[outcome]
      }
      ints[at + 5] = last > first ? 1 : 0
    }
    return { rows: reals }
  }
  const { guide, cells } = draws
  const reals = room.floats((CELL_BYTES / 8) * cells)
  const ints = new Int32Array(reals.buffer, reals.byteOffset, 2 * reals.length)
  const links = room.ints(cells)
  let spare = model.outcomes
  for (let r = 0; r < model.rows; r++)
    for (let part = outcomeStart[r], to = outcomeStart[r + 1]; part < to; part++) {
      const last = lastOfPart(guide, part, to)
      let cell = part
      for (let first = guide[part]; first <= last; first += 2) {
        if (first > guide[part]) {
          links[cell] = CELL_BYTES * spare
          cell = spare++
        }
        const second = Math.min(first + 1, to - 1)
        ints.set(
          [threshold[first], threshold[second], signed(first), signed(second)],
          cell * (CELL_BYTES / 4),
        )
        reals[cell * (CELL_BYTES / 8) + 2] = outcomeReward[first]
        reals[cell * (CELL_BYTES / 8) + 3] = outcomeReward[second]
      }
    }
  return { cells: reals, links }
}

/** The last outcome that a draw from a part of a row's range may fall on. */
function lastOfPart(guide: Int32Array, part: number, to: number): number {
  return part + 1 < to ? guide[part + 1] : to - 1
}

/** All that lean kernels ask of the world, in their memory: where episodes begin, rows of states, and what is drawn from. */
export function movedWorld(
  world: World,
  draws: RowDraws,
  room: Room,
  next: { readonly base: number; readonly size: number },
) {
  return {
    ...drawRecords(world, draws, room, next),
    ...(draws.layout === 'Many' ? { outcomeStart: room.copied(world.outcomeStart) } : {}),
    ...movedStarts(world, room),
  }
}

/** Where episodes begin, and where the rows of each state do. */
export function movedStarts(world: World, room: Room) {
  return {
    tableStart: room.copied(world.tableStart),
    startState: room.copied(world.startState),
    startThreshold: room.copied(world.startThreshold),
    startGuide: room.copied(world.startGuide),
    starts: world.startState.length,
  }
}

/** The outcomes as the world has them, for kernels that look for one among all. */
export function movedOutcomes(world: World, room: Room) {
  const outcomeReward = room.floats(world.outcomeReward.length)
  outcomeReward.set(world.outcomeReward)
  const ending = room.bytes(world.ending.length)
  ending.set(world.ending)
  return {
    outcomeReward,
    ending,
    outcomeStart: room.copied(world.outcomeStart),
    outcomeState: room.copied(world.outcomeState),
    threshold: room.copied(world.threshold),
  }
}
