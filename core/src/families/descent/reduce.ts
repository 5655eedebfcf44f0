import { HypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import { noSlope, rowsWith } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Reduction, Result } from '../../method/reduction'
import { STANDARD_GRAVITY } from '../../quantity/units'
import { indexOfMax, isSloped, since } from '../../signal/rising'
import { windowRange } from '../../signal/window'
import { fitLine } from '../../statistics/line'
import { quantile } from '../../statistics/quantile'
import { meanSd } from '../../statistics/mean'
import type { Warning } from '../../warning'
import type { DescentSettings } from './settings'

const SEA_LEVEL_DENSITY = 1.225
const LAPSE = 0.0065
const GAS_CONSTANT = 287.05287
const PRESSURE_EXPONENT = 5.25588
/** Before the stretch, s, over which its speed is taken. */
const BEFORE_STRETCH = 0.5

/** Density of air, kg/m³, at a height above where temperature and pressure were read. @source ISO 2533, troposphere */
function densityAt(
  height: number,
  { temperature, pressure }: Pick<DescentSettings, 'temperature' | 'pressure'>,
): number {
  const p = pressure * (1 - (LAPSE * height) / temperature) ** PRESSURE_EXPONENT
  return p / (GAS_CONSTANT * (temperature - LAPSE * height))
}

/**
 * Descent reduction: the steady rate gives the drag area; the opening is told by when the lines were stretched and the
 * canopy full.
 * One density throughout, that of the steady window.
 *
 * @param table  altitude [m], riserForce [N, optional], t [s]
 * @throws HypometError `no-event` where it does not descend in the window, `setting-range` for a window without samples
 * @source methods.md, “descent”
 */
export function reduceDescent(read: Table, s: DescentSettings): Reduction {
  const warnings: Warning[] = []
  const table = timed(read, s)
  const heights = rowsWith(table, [s.heightFrom === 'air pressure' ? 'airPressure' : 'altitude'])
  const t = heights.t
  const altitude =
    s.heightFrom === 'air pressure' ? heightOf(heights.channels['airPressure']!, s) : heights.channels['altitude']!
  const { slope, mean } = steadyOf(t, altitude, s.steadyWindow)
  const rate = slope && -slope
  if (rate === null) warnings.push(noSlope('No rate of descent'))
  else if (!(rate > 0))
    throw new HypometError('no-event', 'It does not descend in the steady window.', { path: 'settings.steadyWindow' })
  const density = densityAt(mean, s)
  const dynamicPressure = rate && (density * rate * rate) / 2
  const dragArea = dynamicPressure && (s.mass * STANDARD_GRAVITY) / dynamicPressure
  const results: Record<string, Result> = {
    density: exact(density, 'kg/m³'),
    descentRate: exact(rate, 'm/s'),
    dynamicPressure: exact(dynamicPressure, 'Pa'),
    dragArea: exact(dragArea, 'm²'),
    dragCoefficient: exact(dragArea && dragArea / s.referenceArea, '1'),
    massRatio: exact(dragArea && (density * dragArea ** 1.5) / s.mass, '1'),
    seaLevelRate: exact(rate && rate * Math.sqrt(density / SEA_LEVEL_DENSITY), 'm/s'),
  }
  const isStretched = s.stretchSpeed !== undefined || s.stretchTime !== undefined
  const speed = stretchSpeed(t, altitude, s)
  if (isStretched) results['stretchSpeed'] = exact(speed, 'm/s')
  if (isStretched && speed === null) warnings.push(noSlope('No speed at stretch, and no fill constant'))
  if (s.stretchTime !== undefined && s.fullTime !== undefined) {
    const fillTime = s.fullTime - s.stretchTime
    if (!(fillTime > 0))
      throw new HypometError('setting-range', 'The canopy is full after its lines are stretched.', {
        path: 'settings.fullTime',
      })
    results['fillTime'] = exact(fillTime, 's')
    results['fillConstant'] = exact(
      speed === null ? null : (speed * fillTime) / Math.sqrt((4 * s.referenceArea) / Math.PI),
      '1',
    )
  }
  const risers = rowsWith(table, ['riserForce'])
  const force = risers.channels['riserForce']
  if (force) {
    const from = s.stretchTime === undefined ? 0 : windowRange(risers.t, [s.stretchTime, Infinity])[0]
    if (from >= force.length)
      throw new HypometError('no-event', 'The record ends before the lines are stretched.', {
        path: 'settings.stretchTime',
      })
    const after = force.subarray(from)
    const peak = after[indexOfMax(after)]!
    results['peakOpeningForce'] = exact(peak, 'N')
    if (speed !== null && dragArea !== null)
      results['openingFactor'] = exact(peak / (0.5 * density * speed * speed * dragArea), '1')
    Object.assign(results, swingOf(risers.t, force, s, warnings))
  }
  if (s.landing)
    Object.assign(results, { landingEast: exact(s.landing[0], 'm'), landingNorth: exact(s.landing[1], 'm') })
  Object.assign(results, observed(s, t, warnings))
  return {
    results,
    tables: s.phases ? { phases: phasesOf(s, t, altitude, risers.t, force) } : {},
    warnings,
    traces: { t, altitude, ...(force ? { riserTime: risers.t, riserForce: force } : {}) },
  }
}

/** What somebody saw of the inflation counts as a result. */
function observed(s: DescentSettings, t: Float64Array, warnings: Warning[]): Record<string, Result> {
  if (s.inflation === undefined) return {}
  const share = s.inflation === 'full' ? 1 : s.inflation === 'none' ? 0 : (s.inflatedShare ?? null)
  if (share === null)
    warnings.push({
      code: 'no-share',
      message: 'It filled partly, and nobody has said how much of it: no share can be judged.',
    })
  return {
    inflatedShare: exact(share, '1'),
    ...(s.inflatedAt === undefined ? {} : { inflationTime: exact(s.inflatedAt - (s.stretchTime ?? t[0]!), 's') }),
  }
}

/**
 * Each phase by itself: its drag area from its steady window with the density there, and the largest riser force from
 * the end of the phase before until its own end.
 */
function phasesOf(
  s: DescentSettings,
  t: Float64Array,
  altitude: Float64Array,
  riserTime: Float64Array,
  force: Float64Array | undefined,
) {
  const phases = [...s.phases!].sort((a, b) => a.window[0] - b.window[0])
  const rows = phases.map(({ name, window }, i) => {
    const { slope, mean } = steadyOf(t, altitude, window)
    const rate = slope === null ? null : -slope
    const density = densityAt(mean, s)
    const isDown = rate !== null && rate > 0
    const dragArea = isDown ? (2 * s.mass * STANDARD_GRAVITY) / (density * rate * rate) : null
    const begins = i === 0 ? (s.stretchTime ?? -Infinity) : phases[i - 1]!.window[1]
    const [from, to] = force ? windowRange(riserTime, [begins, window[1]]) : [0, 0]
    const within = force?.subarray(from, to)
    return {
      phase: name,
      from: window[0],
      to: window[1],
      rate,
      dragArea,
      dragCoefficient: dragArea === null ? null : dragArea / s.referenceArea,
      openingForce: within && within.length > 0 ? within[indexOfMax(within)]! : null,
    }
  })
  return tableOf(rows, { from: 's', to: 's', rate: 'm/s', dragArea: 'm²', dragCoefficient: '1', openingForce: 'N' })
}

/** A record with its time: numbered pictures tell it by their rate. */
function timed(table: Table, s: DescentSettings): Table {
  if (s.heightFrom !== 'video frames') return table
  const numbered = rowsWith(table, ['frame'])
  return { ...numbered, t: frameTimes(numbered.channels['frame']!, s.frameRate) }
}

/** Seconds of numbered pictures. @throws HypometError `missing-setting`, `time-order` */
function frameTimes(frame: Float64Array, frameRate: number | undefined): Float64Array {
  if (frameRate === undefined)
    throw new HypometError('missing-setting', 'Pictures tell no time without their rate.', {
      path: 'settings.frameRate',
    })
  const back = frame.findIndex((f, i) => i > 0 && f <= frame[i - 1]!)
  if (back > 0)
    throw new HypometError('time-order', `Picture ${frame[back]} follows picture ${frame[back - 1]}.`, {
      path: 'channels.frame',
      row: back + 1,
    })
  return frame.map(f => f / frameRate)
}

/**
 * Height at which the standard atmosphere above the given ground has this pressure, m. @source ISO 2533, troposphere
 */
const heightOf = (
  air: Float64Array,
  { temperature, pressure }: Pick<DescentSettings, 'temperature' | 'pressure'>,
): Float64Array => air.map(p => (temperature / LAPSE) * (1 - (p / pressure) ** (1 / PRESSURE_EXPONENT)))

/**
 * A pendulum pulls m·g·(3 − 2·cos θ) at the bottom of its swing and m·g·cos θ at its ends: the range of the riser force
 * tells
 * its angle, and it passes the bottom twice a period.
 */
function swingOf(
  t: Float64Array,
  force: Float64Array,
  s: DescentSettings,
  warnings: Warning[],
): Record<string, Result> {
  const [a, b] = windowRange(t, s.steadyWindow)
  const inside = force.subarray(a, b)
  if (inside.length < 20) return {}
  const [least, most] = [0.025, 0.975].map(share => quantile(inside, share)) as [number, number]
  const ups = crossings(t.subarray(a, b), inside, least, most)
  const period = ups.length < 3 ? null : (ups.at(-1)! - ups[0]!) / (ups.length - 1)
  if (period === null || shareAt(t.subarray(a, b), inside, period) < STANDS_OUT) {
    warnings.push({
      code: 'no-swing',
      message: 'The riser force shows no swing that stands out of its scatter: no angle and no period.',
    })
    return { swingAngle: exact(null, 'rad') }
  }
  const cosine = 1 - (most - least) / (3 * s.mass * STANDARD_GRAVITY)
  return {
    swingAngle: exact(cosine >= -1 ? Math.acos(cosine) : null, 'rad'),
    swingPeriod: exact(2 * period, 's'),
  }
}

/** A swing has this share of the force's variance at least; scatter alone leaves a few hundredths to one period. */
const STANDS_OUT = 0.3
/** Readings of each period that its share is worked out from at least. */
const READINGS = 200

/** When the force rises through its mean; it counts once a third of the way to its extremes was left on either side. */
function crossings(t: Float64Array, force: Float64Array, least: number, most: number): number[] {
  const { mean } = meanSd(force)
  const [high, low] = [mean + (most - mean) / 3, mean - (mean - least) / 3]
  const ups: number[] = []
  let below = false
  for (let i = 0; i < force.length; i++) {
    if (force[i]! < low) below = true
    else if (below && force[i]! > high) {
      ups.push(t[i]!)
      below = false
    }
  }
  return ups
}

/** Of the variance of a signal, what a sine of one period has. */
function shareAt(t: Float64Array, y: Float64Array, period: number): number {
  const { mean } = meanSd(y)
  const w = (2 * Math.PI) / period
  // A swing is slow: of a fast record few readings a period show it as well.
  const samples = ((y.length - 1) * period) / (t[t.length - 1]! - t[0]!)
  const stride = Math.max(1, Math.floor(samples / READINGS))
  let [re, im, all, n] = [0, 0, 0, 0]
  for (let i = 0; i < y.length; i += stride) {
    re += (y[i]! - mean) * Math.cos(w * t[i]!)
    im += (y[i]! - mean) * Math.sin(w * t[i]!)
    all += (y[i]! - mean) ** 2
    n++
  }
  return all > 0 ? (2 * (re * re + im * im)) / (n * all) : 0
}

/** As given, else by the slope of the altitude just before; null where nothing says it. */
function stretchSpeed(t: Float64Array, altitude: Float64Array, s: DescentSettings): number | null {
  if (s.stretchSpeed !== undefined) return s.stretchSpeed
  if (s.stretchTime === undefined) return null
  const [from, to] = windowRange(t, [s.stretchTime - BEFORE_STRETCH, s.stretchTime])
  const x = t.subarray(from, to)
  return isSloped(since(x)) ? -fitLine(since(x), altitude.subarray(from, to)).slope : null
}

/** Slope, null where it has none, and mean of the heights in the steady window. */
function steadyOf(
  t: Float64Array,
  altitude: Float64Array,
  window: readonly [number, number],
): { slope: number | null; mean: number } {
  const [from, to] = windowRange(t, window)
  if (to <= from)
    throw new HypometError('setting-range', 'No height was read there.', { path: 'settings.steadyWindow' })
  const [x, y] = [since(t.subarray(from, to)), altitude.subarray(from, to)]
  return { slope: isSloped(x) ? fitLine(x, y).slope : null, mean: meanSd(y).mean }
}
