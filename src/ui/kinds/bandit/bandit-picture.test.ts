import { describe, expect, it } from 'vitest'
import { describeArm, drawBandit, frameBandit, rewardRange, type BanditPicture } from './bandit-picture'
import { SvgPen } from '../../board/svg-pen'

const picture: BanditPicture = {
  arms: [
    {
      name: 'owl',
      pays: { type: 'bernoulli', chance: 0.25, reward: 4 },
      estimate: 0.8,
      chance: 1,
      pulls: 1200,
    },
    {
      name: 'hand',
      pays: { type: 'gaussian', mean: -1, deviation: 0.5 },
      estimate: NaN,
      chance: 0,
      pulls: 3,
    },
  ],
  ...rewardRange([
    { type: 'bernoulli', chance: 0.25, reward: 4 },
    { type: 'gaussian', mean: -1, deviation: 0.5 },
  ]),
  hidden: false,
  layers: new Set(['policy', 'actionValues', 'visits']),
  estimateTitle: 'action value',
}
const svg = (of: BanditPicture) => {
  const pen = new SvgPen()
  drawBandit(pen, of, frameBandit(of, 800, 400))
  return pen.svg(800, 400, 'arms')
}

it('finds a scale on which every pay-off has room', () => {
  const { low, high } = picture
  expect(low).toBeLessThan(-1 - 2.8 * 0.5)
  expect(high).toBeGreaterThan(4)
  const one = rewardRange([{ type: 'uniform', low: 3, high: 3 }])
  expect(one.low).toBeLessThan(3)
  expect(one.high).toBeGreaterThan(3)
})

describe('drawBandit', () => {
  it('shows the truth, its mean, and what the agent knows', () => {
    const shown = svg(picture)
    for (const text of ['owl', 'hand', '1', '−1', 'reward of a pull →']) expect(shown).toContain(`>${text}<`)
    expect(shown).toMatch(/>1.?200 ×</)
    // The pin of the arm that has an estimate, and nothing for the one that has none.
    expect(shown.match(/brass-bright/g)!.length).toBe(
      svg({ ...picture, arms: picture.arms.slice(0, 1) }).match(/brass-bright/g)!.length,
    )
  })

  it('draws how good an arm may still be as a bracket, or as an arrow beyond the scale', () => {
    const withBound = (bound: number) =>
      svg({
        ...picture,
        layers: new Set(['actionValues'] as const),
        arms: picture.arms.map((arm) => ({ ...arm, estimate: 0, bound })),
      })
    const inside = (picture.low + picture.high) / 2
    expect(withBound(inside).match(/<polygon/g)?.length ?? 0).toBe(
      (withBound(Infinity).match(/<polygon/g)?.length ?? 0) - picture.arms.length,
    )
    expect(withBound(1e9)).toBe(withBound(Infinity))
    expect(withBound(inside)).not.toMatch(/NaN|Infinity/)
  })

  it('covers everything of the truth when it is hidden', () => {
    const covered = svg({ ...picture, hidden: true })
    expect(covered).not.toContain('>−1<')
    expect(covered).toContain('>?<')
    const elsewhere = {
      ...picture,
      hidden: true,
      arms: picture.arms.map((arm) => ({ ...arm, pays: { type: 'uniform', low: 0, high: 1 } as const })),
    }
    expect(svg(elsewhere)).toBe(covered)
  })
})

it('says an arm in words, without the truth when that is hidden', () => {
  const format = (value: number) => value.toFixed(2)
  expect(describeArm(picture, 0, format)).toMatch(
    /^owl: pays 4 with chance 0.25; mean 1.00; action value 0.80; pulled with chance 1.00; pulled 1.200 times$/,
  )
  expect(describeArm({ ...picture, hidden: true }, 1, format)).toBe(
    'hand: its pay-off is hidden; pulled with chance 0.00; pulled 3 times',
  )
})

it('gives many arms the height they need', () => {
  const arms = Array.from({ length: 100 }, () => picture.arms[0])
  const frame = frameBandit({ ...picture, arms }, 800, 400)
  expect(frame.height).toBeGreaterThan(3000)
  expect(frame.band).toBeGreaterThanOrEqual(30)
})
