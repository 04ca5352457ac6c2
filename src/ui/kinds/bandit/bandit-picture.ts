import { clip } from '../../board/clip'
import { formatCount, formatNumber } from '../../../core/formats/number'
import { meanOf, payOffText, prizesOf, type PayOff } from '../../../core/kinds/bandit/pay-off'
import { drawNeedle, drawPivot } from '../../board/glyphs'
import type { Layer } from '../../../core/lesson/names'
import type { Pen } from '../../board/pen'

/** One arm in one context at one pull, with what an agent knows of it. */
export interface ArmPicture {
  readonly name: string
  readonly pays: PayOff
  /** The action value laid over it. */
  readonly estimate?: number
  /** The chance that the policy pulls it. */
  readonly chance?: number
  /** How good the agent thinks it may still be; infinity before it was pulled. */
  readonly bound?: number
  readonly pulls?: number
}

export interface BanditPicture {
  readonly arms: readonly ArmPicture[]
  /** The scale of rewards: the same for all contexts and pulls, so that they can be compared. */
  readonly low: number
  readonly high: number
  /** The class sees no pay-offs. */
  readonly hidden: boolean
  readonly layers: ReadonlySet<Layer>
  /** What the estimates are called. */
  readonly estimateTitle: string
}

/** Where the bands of the arms lie in the room there is, in pixels. */
export interface BanditFrame {
  readonly left: number
  readonly top: number
  readonly right: number
  /** Height of an arm's band. */
  readonly band: number
  readonly width: number
  readonly height: number
}

const TOP = 8
const BOTTOM = 40
const LEAST_BAND = 34
const MOST_BAND = 300

export function banditHeight({ arms }: Pick<BanditPicture, 'arms'>): number {
  return TOP + BOTTOM + arms.length * LEAST_BAND
}

/** Fits the arms into a room; when there are too many the picture is higher than it. */
export function frameBandit({ arms }: BanditPicture, width: number, height: number): BanditFrame {
  const band = Math.max(LEAST_BAND, Math.min(MOST_BAND, Math.floor((height - TOP - BOTTOM) / arms.length)))
  const longest = Math.max(4, ...arms.map(({ name }) => Math.min(name.length, 24)))
  const left = Math.min(width * 0.4, 46 + longest * 7.4)
  return {
    left,
    top: TOP,
    right: Math.max(left + 40, width - 84),
    band,
    width: Math.max(left + 124, width),
    height: TOP + BOTTOM + band * arms.length,
  }
}

export function drawBandit(pen: Pen, picture: BanditPicture, frame: BanditFrame): void {
  const { left, top, right, band } = frame
  const { arms, low, high, hidden, layers } = picture
  const span = high - low || 1
  const place = (reward: number) => left + ((reward - low) / span) * (right - left)
  const bottom = top + band * arms.length
  pen.rectangle(left, top, right - left, bottom - top, { fill: 'sheet' })
  drawScale(pen, picture, frame, place)
  arms.forEach((arm, i) => {
    const base = top + band * (i + 1)
    const middle = base - band / 2
    if (i > 0) pen.line(8, base - band, right, base - band, { stroke: 'rule', width: 0.75 })
    pen.text(left - 10, middle, clip(arm.name, 24), { size: 14, colour: 'ink', align: 'right', bold: true })
    if (hidden) drawCover(pen, frame, base)
    else drawPayOff(pen, arm.pays, place, base - 4, band - 12, right)
    if (layers.has('policy') && arm.chance !== undefined) {
      const side = Math.min(30, band * 0.8)
      drawNeedle(pen, 18, middle, side, 0, arm.chance)
      drawPivot(pen, 18, middle, side)
    }
    if (layers.has('actionValues') && arm.estimate !== undefined && Number.isFinite(arm.estimate))
      drawEstimate(pen, arm.estimate, place, frame, base)
    if (layers.has('actionValues') && arm.bound !== undefined)
      drawBound(pen, arm.estimate ?? 0, arm.bound, place, frame, base)
    if (layers.has('visits') && arm.pulls !== undefined)
      pen.text(right + 10, middle, `${formatCount(arm.pulls)} ×`, {
        size: 13,
        colour: 'brass',
        align: 'left',
      })
  })
  pen.rectangle(left, top, right - left, bottom - top, { stroke: 'rule-strong', width: 1.5 })
}

/** The truth: a bar for every single reward, or the outline of the density, and a line at the mean. */
function drawPayOff(
  pen: Pen,
  pays: PayOff,
  place: (reward: number) => number,
  base: number,
  room: number,
  right: number,
): void {
  const fill = { from: 'sheet', to: 'slate', part: 0.35 } as const
  if (pays.type === 'gaussian' && pays.deviation > 0) {
    const points: number[] = []
    for (let z = -3.5; z <= 3.5; z += 0.1)
      points.push(place(pays.mean + z * pays.deviation), base - room * Math.exp(-0.5 * z * z))
    pen.polygon([...points, place(pays.mean + 3.5 * pays.deviation), base, points[0], base], {
      fill,
      stroke: 'slate',
      width: 1.25,
    })
  } else if (pays.type === 'uniform' && pays.high > pays.low)
    pen.rectangle(place(pays.low), base - room * 0.6, place(pays.high) - place(pays.low), room * 0.6, {
      fill,
      stroke: 'slate',
      width: 1.25,
    })
  else
    for (const { reward, probability } of prizesOf(pays)) {
      const x = place(reward)
      const height = Math.max(2, room * probability)
      pen.rectangle(x - 5, base - height, 10, height, { fill, stroke: 'slate', width: 1.25 })
    }
  const mean = place(meanOf(pays))
  pen.line(mean, base, mean, base - room - 2, { stroke: 'ink', width: 2 })
  const text = formatNumber(meanOf(pays), 3)
  const beyond = mean + 8 + text.length * 8 > right
  pen.text(mean + (beyond ? -6 : 6), base - room + 4, text, {
    size: 13,
    colour: 'ink',
    align: beyond ? 'right' : 'left',
    bold: true,
    rim: 'sheet',
  })
}

/** A covered arm: the truth is there, but the class does not see it. */
function drawCover(pen: Pen, { left, right, band }: BanditFrame, base: number): void {
  const middle = base - band / 2
  pen.rectangle(left + 4, base - band + 4, right - left - 8, band - 8, { fill: 'rule', opacity: 0.5 })
  for (let x = left + 24; x < right - 12; x += 28)
    pen.text(x, middle, '?', { size: Math.min(20, band * 0.45), colour: 'ink-soft' })
}

/** The estimate: a brass pin, halfway up where it hides no number, which stands where the agent thinks the mean is; hollow when that is off the scale. */
function drawEstimate(
  pen: Pen,
  estimate: number,
  place: (reward: number) => number,
  { left, right, band }: BanditFrame,
  base: number,
): void {
  const x = Math.max(left, Math.min(right, place(estimate)))
  const head = Math.min(7, band * 0.12)
  const middle = base - band / 2
  const beyond = x !== place(estimate)
  pen.line(x, middle, x, base - 4, { stroke: 'brass-bright', width: 2.5 })
  pen.circle(x, middle, head, {
    fill: beyond ? 'sheet' : 'brass-bright',
    stroke: beyond ? 'brass' : 'ink',
    width: beyond ? 2 : 1,
  })
  if (beyond)
    pen.text(x + (x === right ? -head - 4 : head + 4), middle, formatNumber(estimate, 3), {
      size: 12,
      colour: 'brass',
      align: x === right ? 'right' : 'left',
      rim: 'sheet',
    })
}

/** A bracket from the estimate to how good the arm may still be; an arrow where that lies beyond the scale. */
function drawBound(
  pen: Pen,
  estimate: number,
  bound: number,
  place: (reward: number) => number,
  { left, right, band }: BanditFrame,
  base: number,
): void {
  const held = (x: number) => Math.max(left, Math.min(right, x))
  const y = base - band / 2
  const beyond = !Number.isFinite(bound) || place(bound) > right
  const end = beyond ? right - 6 : held(place(bound))
  const reach = Math.min(7, band * 0.12)
  const paint = { stroke: 'brass', width: 1.5 } as const
  pen.line(held(place(estimate)), y, end, y, paint)
  if (beyond) pen.polygon([end + 6, y, end - 3, y - reach * 0.7, end - 3, y + reach * 0.7], { fill: 'brass' })
  else pen.line(end, y - reach, end, y + reach, paint)
}

function drawScale(
  pen: Pen,
  { low, high, arms }: BanditPicture,
  { left, right, top, band }: BanditFrame,
  place: (reward: number) => number,
): void {
  const bottom = top + band * arms.length
  const step = niceStep((high - low) / 6)
  for (let k = Math.ceil(low / step - 1e-9); k * step <= high + step * 1e-9; k++) {
    const x = place(k * step)
    pen.line(x, top, x, bottom, { stroke: 'rule', width: k === 0 ? 1.5 : 0.75 })
    pen.text(x, bottom + 11, formatNumber(k * step, 4), { size: 12, colour: 'ink-soft' })
  }
  pen.text((left + right) / 2, bottom + 29, 'reward of a pull →', { size: 13, colour: 'ink', bold: true })
}

/** 1, 2 or 5 times a power of ten, at least `least`. */
function niceStep(least: number): number {
  if (!(least > 0)) return 1
  const decade = 10 ** Math.floor(Math.log10(least))
  return decade * ([1, 2, 5].find((factor) => factor * decade >= least) ?? 10)
}

/** The rewards that the pay-offs of a bandit lie between, with a little air. */
export function rewardRange(pays: Iterable<PayOff>): { low: number; high: number } {
  let low = Infinity
  let high = -Infinity
  for (const each of pays) {
    const wide = each.type === 'gaussian' ? 2.8 * each.deviation : 0
    const rewards = wide
      ? [meanOf(each) - wide, meanOf(each) + wide]
      : prizesOf(each).map(({ reward }) => reward)
    for (const reward of rewards) {
      low = Math.min(low, reward)
      high = Math.max(high, reward)
    }
  }
  const air = (high - low || Math.abs(high) || 1) * 0.06
  return { low: low - air, high: high + air }
}

/** An arm in words. */
export function describeArm(picture: BanditPicture, arm: number, format: (value: number) => string): string {
  const { name, pays, estimate, chance, pulls } = picture.arms[arm]
  const parts = [
    picture.hidden ? 'its pay-off is hidden' : `pays ${payOffText(pays)}; mean ${format(meanOf(pays))}`,
    ...(estimate === undefined || !Number.isFinite(estimate)
      ? []
      : [`${picture.estimateTitle} ${format(estimate)}`]),
    ...(chance === undefined ? [] : [`pulled with chance ${format(chance)}`]),
    ...(pulls === undefined ? [] : [`pulled ${formatCount(pulls)} times`]),
  ]
  return `${name}: ${parts.join('; ')}`
}
