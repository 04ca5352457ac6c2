import type { DrawThumbnail } from '../thumbnail'
import { drawBandit, rewardRange } from './bandit-picture'

/** Arms drawn at the most. */
const ARMS = 6

export const banditThumbnail: DrawThumbnail<'bandit'> = (pen, { bandit: { arms, hidden }, name }) => {
  const shown = arms.slice(0, ARMS).map((arm) => ({ name: arm.name, pays: arm.pays[0] }))
  const picture = {
    arms: shown,
    ...rewardRange(shown.map(({ pays }) => pays)),
    hidden,
    layers: new Set<never>(),
    estimateTitle: '',
  }
  pen.rectangle(0, 0, 240, 240, { fill: 'sheet', stroke: 'rule-strong', width: 1.5 })
  drawBandit(pen, picture, {
    left: 90,
    right: 232,
    top: 6,
    band: 196 / shown.length,
    width: 240,
    height: 240,
  })
  return { width: 240, height: 240, title: `The arms of ${name}` }
}
