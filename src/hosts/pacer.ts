import { REAL_CLOCK, type Clock } from './host'
import type { Speed } from './protocol/common'

/** How long a slice of work may take before the worker listens again, in milliseconds. */
const SLICE = 12
/** Between two frames at the least, in milliseconds. */
const FRAME = 16
/** Sending frames may take up to this share of the time: those of large models are made more rarely. */
const FRAME_SHARE = 0.2

/**
 * Runs work in short slices at a wanted speed, and sends frames no faster than they are shown.
 *
 * @param work   does up to `count` units before the time `until`; returns how many, 0 when there is nothing left
 * @param send   sends a frame
 */
export class Pacer {
  running = false
  private speed: Speed = 'flat out'
  private owed = 0
  private lastTick = 0
  private lastFrame = -Infinity
  /** Between two frames now, in milliseconds. */
  private rest = FRAME
  private shown = true
  private dirty = false
  private tickets = 0

  constructor(
    private readonly work: (count: number, until: number) => number,
    private readonly send: () => void,
    private readonly clock: Clock = REAL_CLOCK,
  ) {}

  run(speed: Speed): void {
    const wasRunning = this.running
    this.speed = speed
    this.running = true
    this.owed = 1
    this.lastTick = this.clock.now()
    if (!wasRunning) this.tick(++this.tickets)
  }

  pause(): void {
    this.running = false
    this.tickets++
    this.frame()
  }

  /** Sends a frame as soon as the page has shown the one before. */
  frame(): void {
    this.dirty = true
    this.sendIfDue()
  }

  /** The page has drawn the last frame. */
  acknowledge(): void {
    this.shown = true
    this.sendIfDue()
  }

  private tick = (ticket: number): void => {
    if (!this.running || ticket !== this.tickets) return
    const now = this.clock.now()
    let wanted = Infinity
    if (this.speed !== 'flat out') {
      this.owed += (this.speed * (now - this.lastTick)) / 1000
      // After a long sleep of the page there is no point in catching up.
      this.owed = Math.min(this.owed, Math.max(1, this.speed / 4))
      wanted = Math.floor(this.owed)
    }
    this.lastTick = now
    if (wanted > 0) {
      const did = this.work(wanted, now + SLICE)
      if (this.speed !== 'flat out') this.owed -= did
      this.dirty = true
      if (did === 0) {
        this.pause()
        return
      }
    }
    this.sendIfDue()
    this.clock.later(
      () => this.tick(ticket),
      this.speed === 'flat out' ? 0 : Math.min(FRAME, 500 / this.speed),
    )
  }

  private sendIfDue(): void {
    const now = this.clock.now()
    if (!this.dirty || !this.shown || (this.running && now - this.lastFrame < this.rest)) return
    this.dirty = false
    this.shown = false
    this.lastFrame = now
    this.send()
    this.rest = Math.max(FRAME, (this.clock.now() - now) / FRAME_SHARE)
  }
}
