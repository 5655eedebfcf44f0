import type { WatchKind } from '../plan/watch'
import { curveThrough } from '../statistics/polynomial'
import { ApproachEstimator, type ApproachEstimate } from './approach'
import { OnsetEstimator, type OnsetEstimate } from './onset'
import { SlidingWindow } from './sliding'

/** One sample as a rule sees it: its own reading and the commanded one, both less their zero. */
export interface Look {
  t: number
  value: number
  guide: number
  isHold: boolean
  maxTarget: number
  /** Rung that is held or climbed to, and what the next one commands; null after the last. */
  rung: number
  next: number | null
}

/**
 * What a rule makes of a sample: the number that its limit is held against, by size; null where it says nothing yet.
 */
export interface Measure {
  look(now: Look): number | null
  /** Beyond the rule's number, or within it. */
  fires: 'beyond' | 'within'
  onset?(): OnsetEstimate | null
  approach?(): ApproachEstimate | null
}

export function measureOf(kind: WatchKind, maxTarget: number): Measure {
  switch (kind) {
    case 'limit':
    case 'twin':
      return { fires: 'beyond', look: now => now.value }
    case 'rate':
      return { fires: 'beyond', look: slopeOverASecond() }
    case 'leak':
      return leak()
    case 'line':
      return { fires: 'beyond', look: offTheLine() }
    case 'onset':
      return onset(maxTarget)
    case 'steady':
      return approach('within')
    case 'heads-for':
      return approach('beyond')
    case 'next-rung':
      return { fires: 'beyond', look: atNextRung() }
    case 'failure':
      return { fires: 'beyond', look: fallFromPeak() }
  }
}

const SLOPE_WINDOW = 1

function slopeOverASecond(): (now: Look) => number | null {
  const window = new SlidingWindow(SLOPE_WINDOW)
  return ({ t, value }) => {
    window.push(t, value)
    return window.span < 0.8 * SLOPE_WINDOW || window.n < 4 ? null : window.slope
  }
}

function leak(): Measure {
  let slope = slopeOverASecond()
  return {
    fires: 'beyond',
    look(now) {
      if (!now.isHold) {
        slope = slopeOverASecond()
        return null
      }
      const fall = slope(now)
      return fall === null ? null : Math.max(0, -fall)
    },
  }
}

/** A guide falls from its peak within this, s; a peak below this share of the highest rung is none. */
const FAILURE_WINDOW = 0.5
const FAILURE_FLOOR = 0.2

function fallFromPeak(): (now: Look) => number | null {
  const window = new SlidingWindow(FAILURE_WINDOW)
  return ({ t, value, maxTarget }) => {
    window.push(t, value)
    return window.max > FAILURE_FLOOR * maxTarget ? 1 - value / window.max : null
  }
}

/** The line is fitted to this part of the way up, and looked at beyond. */
const LINE_FROM = 0.1
const LINE_TO = 0.5
const FEWEST_ON_LINE = 10

/**
 * Share by which a reading is off the line through the early part of the way up; null while that line is being drawn.
 */
function offTheLine(): (now: Look) => number | null {
  const s = { n: 0, x: 0, y: 0, xx: 0, xy: 0 }
  let peak = 0
  return ({ value, guide, maxTarget }) => {
    if (!Number.isFinite(guide)) return null
    if (guide > LINE_FROM * maxTarget && guide <= LINE_TO * maxTarget && guide >= peak) {
      s.n++
      s.x += guide
      s.y += value
      s.xx += guide * guide
      s.xy += guide * value
    }
    peak = Math.max(peak, guide)
    const det = s.n * s.xx - s.x * s.x
    if (guide <= LINE_TO * maxTarget || s.n < FEWEST_ON_LINE || !(det > 0)) return null
    const slope = (s.n * s.xy - s.x * s.y) / det
    const expected = (s.y - slope * s.x) / s.n + slope * guide
    return expected === 0 ? null : value / expected - 1
  }
}

function onset(maxTarget: number): Measure {
  const estimator = new OnsetEstimator(maxTarget)
  return {
    fires: 'beyond',
    look({ guide, value }) {
      if (Number.isFinite(guide)) estimator.add(guide, value)
      const { estimate } = estimator
      return estimate === null ? null : guide / estimate.critical
    },
    onset: () => estimator.estimate,
  }
}

/** A rung counts for what comes next once it has been held so long, s. */
const SETTLED = 2

/**
 * What the reading will be at the next rung: a curve of at most the second degree through the means of the rungs held
 * so far.
 */
function atNextRung(): (now: Look) => number | null {
  const means = new Map<number, { x: number; y: number; n: number }>()
  let [rung, since] = [-1, NaN]
  return ({ t, value, guide, isHold, rung: now, next, maxTarget }) => {
    if (!isHold || !Number.isFinite(guide)) return null
    if (now !== rung) [rung, since] = [now, t]
    if (t - since < SETTLED) return null
    const m = means.get(rung) ?? { x: 0, y: 0, n: 0 }
    means.set(rung, { x: m.x + guide, y: m.y + value, n: m.n + 1 })
    if (next === null || next <= guide || means.size < 2) return null
    return curveThrough(
      [...means.values()].map(p => ({ x: p.x / p.n, y: p.y / p.n })),
      next,
      SAME_RUNG * maxTarget,
    )
  }
}

/** Rungs nearer to one another than this share of the highest are one place. */
const SAME_RUNG = 0.02

/** A steady value counts when its band is this share of what it is held against at most. */
const SURE = 0.25

function approach(fires: Measure['fires']): Measure {
  const estimator = new ApproachEstimator()
  let load = NaN
  return {
    fires,
    look({ t, value, guide, isHold, maxTarget }) {
      // A new load is a new approach.
      if (!isHold || Math.abs(guide - load) > 0.1 * maxTarget) {
        estimator.restart()
        load = guide
        if (!isHold) return null
      }
      estimator.add(t, value)
      const { estimate } = estimator
      if (!estimate) return null
      if (fires === 'within') return Math.abs(estimate.steady - value) + estimate.half
      return estimate.half < SURE * Math.abs(estimate.steady) ? estimate.steady : null
    },
    approach: () => estimator.estimate,
  }
}
