import { STANDARD_GRAVITY } from '../../quantity/units'
import { figure, predictedOf, type LiveFrom, type LiveKind, type LiveReader, type LiveSaid } from '../../rig/liveReader'
import { SlidingWindow } from '../../rig/sliding'
import type { DescentPlan } from './plan'

type Phase = 'Hanging' | 'Falling' | 'Opening' | 'Descending' | 'Landed'

/** A rate is the slope of the altitude over so many s. */
const OVER = 1
/** It has left above this rate, and landed below the other for so long, m/s and s. */
const [LEFT, STANDS, STANDS_FOR] = [2, 0.3, 1]
/** Of the weight: lines are stretched above it. Of the largest so far: the canopy is full once it has fallen below. */
const [STRETCHED, FULL] = [0.3, 0.85]
/** Without a riser: it descends once its rate changes by less than this share of g. */
const STEADY = 0.15

class DescentReader implements LiveReader {
  private phase: Phase = 'Hanging'
  private readonly altitude = new SlidingWindow(OVER)
  private height: number | null = null
  private force: number | null = null
  private largest = 0
  private before = { t: NaN, rate: NaN }
  private stoodSince = NaN
  private highest = -Infinity

  constructor(private readonly o: LiveFrom<DescentPlan>) {}

  feed(...[{ t, channels }, now]: Parameters<LiveReader['feed']>): LiveSaid[] {
    const said: LiveSaid[] = []
    const [heights, forces] = [channels['altitude'], channels['riserForce']]
    for (let k = 0; k < t.length; k++) {
      const height = heights?.[k] ?? NaN
      if (Number.isFinite(height)) {
        this.altitude.push(t[k]!, height)
        this.height = height - this.o.zeroOf('altitude')
        this.highest = Math.max(this.highest, this.height)
      }
      const force = forces?.[k] ?? NaN
      if (Number.isFinite(force)) this.force = force - this.o.zeroOf('riserForce')
      const next = now.phase === 'ramp' ? null : this.next(t[k]!)
      if (next) said.push(this.enter(next, t[k]!))
    }
    return said
  }

  private get rate(): number {
    return this.altitude.span >= OVER / 2 ? -this.altitude.slope : NaN
  }

  private next(t: number): Phase | null {
    const { rate, force } = this
    const weight = (this.o.plan.mass ?? 0) * STANDARD_GRAVITY
    switch (this.phase) {
      case 'Hanging':
        return rate > LEFT && this.highest > 0 ? 'Falling' : null
      case 'Falling':
        if (force !== null && weight > 0 && force > STRETCHED * weight) return 'Opening'
        return force === null && this.isSteady(t, rate) ? 'Descending' : null
      case 'Opening':
        this.largest = Math.max(this.largest, force ?? 0)
        return (force ?? 0) < FULL * this.largest && this.isSteady(t, rate) ? 'Descending' : null
      case 'Descending':
        this.largest = Math.max(this.largest, force ?? 0)
        if (!(Math.abs(rate) < STANDS)) this.stoodSince = NaN
        else if (Number.isNaN(this.stoodSince)) this.stoodSince = t
        return t - this.stoodSince >= STANDS_FOR ? 'Landed' : null
      case 'Landed':
        return null
    }
  }

  /** The rate no longer changes as it does in a fall: compared over half a second. */
  private isSteady(t: number, rate: number): boolean {
    if (!Number.isFinite(rate)) return false
    if (!(t - this.before.t < 2 * OVER)) this.before = { t, rate }
    if (t - this.before.t < OVER / 2) return false
    const change = Math.abs(rate - this.before.rate) / (t - this.before.t)
    this.before = { t, rate }
    return change < STEADY * STANDARD_GRAVITY
  }

  private enter(phase: Phase, t: number): LiveSaid {
    this.phase = phase
    const { show } = this.o
    const words: Record<Phase, string> = {
      Hanging: '',
      Falling: 'it has left',
      Opening: 'lines are stretched',
      Descending: `it descends with ${show(this.rate, 'velocity')}`,
      Landed: 'it has landed',
    }
    return { kind: 'phase', t, note: words[phase], value: this.height, reading: this.force }
  }

  figures(): ReturnType<LiveReader['figures']> {
    const { view } = this.o
    const isDown = this.phase === 'Falling' || this.phase === 'Opening' || this.phase === 'Descending'
    return [
      figure('altitude', 'Altitude', 'length', this.height),
      figure('descentRate', 'Descent rate', 'velocity', isDown ? this.rate : this.phase === 'Landed' ? 0 : null, {
        predicted: predictedOf(view, 'descentRate'),
      }),
      figure('riserForce', 'Riser force', 'force', this.force),
      figure('peakOpeningForce', 'Largest so far', 'force', this.largest > 0 ? this.largest : null, {
        predicted: predictedOf(view, 'peakOpeningForce'),
      }),
    ]
  }

  stands(): string {
    return this.phase
  }
}

export const descentLive: LiveKind<DescentPlan> = {
  reader: from => new DescentReader(from),
  overTime: true,
  isLively: true,
}
