import { clip } from '../../board/clip'
import type { DrawThumbnail } from '../thumbnail'
import { drawBandit, rewardRange } from './bandit-picture'

/** Arms drawn at the most. */
const ARMS = 6
/** Letters of a name at the most. */
const LETTERS = 13

export const banditThumbnail: DrawThumbnail<'bandit'> = (pen, { bandit: { arms, hidden }, name }) => {
  const shown = arms.slice(0, ARMS).map((arm) => ({ name: clip(arm.name, LETTERS), pays: arm.pays[0] }))
  const picture = {
    arms: shown,
    ...rewardRange(shown.map(({ pays }) => pays)),
    hidden,
    layers: new Set<never>(),
    estimateTitle: '',
  }
  pen.rectangle(0, 0, 240, 240, { fill: 'sheet', stroke: 'rule-strong', width: 1.5 })
  drawBandit(pen, picture, {
    left: 22 + 7.4 * Math.max(4, ...shown.map(({ name }) => name.length)),
    right: 232,
    top: 6,
    band: 196 / shown.length,
    width: 240,
    height: 240,
  })
  return { width: 240, height: 240, title: `The arms of ${name}` }
}
