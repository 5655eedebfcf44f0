import { HypometError, isHypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import { zeroedRows } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Reduction, Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { STANDARD_GRAVITY } from '../../quantity/units'
import { channelClassSection, rateWarnings } from '../../signal/channelClass'
import { evenInterval } from '../../signal/evenTime'
import { hasGap } from '../../signal/gaps'
import { crossingBetween, cumulativeIntegral, indexOfMax } from '../../signal/rising'
import { filterZeroPhase, paddingOf } from '../../signal/sections'
import { median } from '../../statistics/quantile'
import type { DropSettings } from './settings'

const PULSE_FROM = 0.05
const PLATEAU_FROM = 0.5
const PLATEAU_LEVEL = 0.9
/** Spine of a seated person: natural frequency, rad/s, and damping. */
const SPINE = { frequency: 52.9, damping: 0.224 }
const STILL = 1e-100

/**
 * Drop reduction of the filtered acceleration. Integrals run from where the pulse begins to where it ends.
 *
 * @param table  acceleration [m/s²], t [s] evenly spaced
 * @throws HypometError `no-event` where nothing reaches the trigger, `setting-range` for a class above the sample rate
 * @source methods.md, “drop”; SAE J211-1
 */
export function reduceDrop(table: Table, s: DropSettings): Reduction {
  const warnings: Warning[] = []
  const { t, channels, units } = zeroedRows(table, accelerations(table), s.zeroStart, warnings)
  const interval = evenInterval(t)
  const main = analyse(t, channels['acceleration']!, s, interval)
  const { a, peak, pulse, deltaV } = main
  const further = furtherChannels(t, channels, units, s, interval)
  return {
    results: {
      peak: exact(peak, 'm/s²'),
      meanAcceleration: exact(deltaV / main.duration, 'm/s²'),
      plateau: exact(main.plateau, 'm/s²'),
      pulseStart: exact(pulse.t[0]!, 's'),
      pulseEnd: exact(pulse.t.at(-1)!, 's'),
      duration: exact(main.duration, 's'),
      deltaV: exact(deltaV, 'm/s'),
      rebound: exact(deltaV - s.impactVelocity, 'm/s'),
      restitution: exact((deltaV - s.impactVelocity) / s.impactVelocity, '1'),
      displacement: exact(main.stroke, 'm'),
      ...(s.mass === undefined ? {} : { peakForce: exact(s.mass * peak, 'N') }),
      ...(s.spine ? { responseIndex: exact(responseIndex(a, interval), '1') } : {}),
      ...(channels['input'] ? inputResults(t, channels['input'], main, s, interval, warnings) : {}),
    },
    tables:
      further.length === 0
        ? {}
        : {
            channels: tableOf(
              [{ role: 'acceleration', ...main }, ...further].map(
                ({ role, peak: p, plateau, deltaV: dv, duration, stroke }) => ({
                  channel: role,
                  peak: p,
                  plateau,
                  deltaV: dv,
                  duration,
                  displacement: stroke,
                }),
              ),
              { channel: '', peak: 'm/s²', plateau: 'm/s²', deltaV: 'm/s', duration: 's', displacement: 'm' },
            ),
          },
    warnings: [...warnings, ...rateWarnings(s.cfc, interval), ...velocityWarning(deltaV, s.impactVelocity)],
    traces: { t, acceleration: a, ...Object.fromEntries(further.map(f => [f.role, f.a])) },
  }
}

interface Analysed {
  /** Filtered, and its pulse. */
  a: Float64Array
  pulse: Pulse
  peak: number
  plateau: number
  deltaV: number
  duration: number
  stroke: number
}

/** The main channel first: it is the one that must have a zero. */
const accelerations = ({ channels, units }: Table): string[] => [
  'acceleration',
  ...Object.keys(channels).filter(r => r !== 'acceleration' && units[r] === 'm/s²'),
]

/** The floor's or sled's own pulse, and what of it came through to the seat. */
function inputResults(
  t: Float64Array,
  read: Float64Array,
  { peak, plateau }: Analysed,
  s: DropSettings,
  interval: number,
  warnings: Warning[],
): Record<string, Result> {
  const input = hasGap(read) ? null : analysedOrNull(t, read, s, interval)
  if (!input)
    warnings.push(
      hasGap(read)
        ? { code: 'gap', message: 'The input has a gap of more than three samples: nothing is told of it.' }
        : { code: 'no-input-pulse', message: 'The input shows no pulse that reaches the trigger.' },
    )
  return {
    inputPeak: exact(input && input.peak, 'm/s²'),
    inputDeltaV: exact(input && input.deltaV, 'm/s'),
    transmissibility: exact(input && peak / input.peak, '1'),
    attenuation: exact(input && plateau / input.peak, '1'),
  }
}

function analysedOrNull(t: Float64Array, y: Float64Array, s: DropSettings, interval: number): Analysed | null {
  try {
    return analyse(t, y, s, interval)
  } catch (e) {
    if (isHypometError(e) && e.code === 'no-event') return null
    throw e
  }
}

function analyse(t: Float64Array, raw: Float64Array, s: DropSettings, interval: number): Analysed {
  const section = channelClassSection(s.cfc, interval)
  if (raw.length <= paddingOf([section]))
    throw new HypometError(
      'data-range',
      `The record has ${raw.length} samples; this filter needs more than ${paddingOf([section])}.`,
      { path: 'channels.acceleration' },
    )
  const a = filterZeroPhase([section], raw)
  const at = peakOf(a, s.trigger)
  const peak = a[at]!
  if (!(peak > 0))
    throw new HypometError('no-event', 'The acceleration never rises above nothing: there is no pulse.', {
      path: 'channels.acceleration',
    })
  const pulse = pulseOf(t, a, at, PULSE_FROM * peak)
  const velocity = cumulativeIntegral(pulse.t, pulse.a)
  const way = cumulativeIntegral(
    pulse.t,
    velocity.map(v => v - s.impactVelocity),
  )
  return {
    a,
    pulse,
    peak,
    plateau: plateauOf(pulse, peak),
    deltaV: velocity.at(-1)!,
    duration: pulse.t.at(-1)! - pulse.t[0]!,
    stroke: way.reduce((m, v) => Math.max(m, Math.abs(v)), 0),
  }
}

/** Other accelerometers of the same drop, each by its own pulse; one that shows none is left out. */
function furtherChannels(
  t: Float64Array,
  channels: Table['channels'],
  units: Table['units'],
  s: DropSettings,
  interval: number,
): (Analysed & { role: string })[] {
  return Object.entries(channels).flatMap(([role, y]) => {
    if (role === 'acceleration' || units[role] !== 'm/s²' || hasGap(y)) return []
    try {
      return [{ role, ...analyse(t, y, s, interval) }]
    } catch (e) {
      if (isHypometError(e)) return []
      throw e
    }
  })
}

/** A pulse takes at least the impact velocity away; where its area says less, velocity, gauge or window is wrong. */
const velocityWarning = (deltaV: number, impact: number): Warning[] =>
  deltaV >= impact
    ? []
    : [
        {
          code: 'velocity-check',
          message:
            `The pulse takes ${Math.floor((100 * deltaV) / impact)} % of the impact velocity away, where all of it ` +
            `must go: check the velocity, the gauge and the zero.`,
        },
      ]

/** The largest; with a trigger, the largest of the first pulse that reaches it. */
function peakOf(a: Float64Array, trigger: number | undefined): number {
  if (trigger === undefined) return indexOfMax(a)
  const from = a.findIndex(v => v >= trigger)
  if (from < 0) throw new HypometError('no-event', 'Nothing reaches the trigger.', { path: 'settings.trigger' })
  const after = a.subarray(from).findIndex(v => v < trigger)
  return from + indexOfMax(a.subarray(from, after < 0 ? a.length : from + after))
}

interface Pulse {
  t: Float64Array
  a: Float64Array
}

/**
 * The samples around the peak above a level, with the two crossings as its ends; the record's ends where there is none.
 */
function pulseOf(t: Float64Array, a: Float64Array, peak: number, level: number): Pulse {
  let [from, to] = [peak, peak]
  while (from > 0 && a[from - 1]! > level) from--
  while (to < a.length - 1 && a[to + 1]! > level) to++
  const [first, last] = [
    from > 0 ? [crossingBetween(t, a, from - 1, level)] : [],
    to < a.length - 1 ? [crossingBetween(t, a, to, level)] : [],
  ]
  return {
    t: Float64Array.from([...first, ...t.subarray(from, to + 1), ...last]),
    a: Float64Array.from([...first.map(() => level), ...a.subarray(from, to + 1), ...last.map(() => level)]),
  }
}

/**
 * Mean over time of what the pulse stood at: between its first and last crossing of nine tenths of the level that its
 * samples above half of the peak have in the middle. The ramps on either side are not in it.
 */
function plateauOf(pulse: Pulse, peak: number): number {
  const half = PLATEAU_FROM * peak
  const [first, last] = [pulse.a.findIndex(v => v >= half), pulse.a.findLastIndex(v => v >= half)]
  return meanBetweenCrossings(pulse, PLATEAU_LEVEL * median(pulse.a.subarray(first, last + 1)))
}

/** Mean over time between the first and the last crossing of a level inside the pulse. */
function meanBetweenCrossings({ t, a }: Pulse, level: number): number {
  const first = a.findIndex(v => v >= level)
  const last = a.findLastIndex(v => v >= level)
  const ends = {
    from: first > 0 ? crossingBetween(t, a, first - 1, level) : t[0]!,
    to: last < a.length - 1 ? crossingBetween(t, a, last, level) : t.at(-1)!,
  }
  const x = Float64Array.from([
    ...(first > 0 ? [ends.from] : []),
    ...t.subarray(first, last + 1),
    ...(last < a.length - 1 ? [ends.to] : []),
  ])
  const y = Float64Array.from([
    ...(first > 0 ? [level] : []),
    ...a.subarray(first, last + 1),
    ...(last < a.length - 1 ? [level] : []),
  ])
  return cumulativeIntegral(x, y).at(-1)! / (ends.to - ends.from)
}

/**
 * Dynamic response index: largest compression of a sprung mass on the moving base, from rest, as an acceleration over
 * g. Exact
 * for a record that is straight between samples.
 *
 * @source Brinkley & Shaffer (1971), Dynamic simulation techniques for the design of escape systems
 */
function responseIndex(a: Float64Array, h: number): number {
  const { frequency: w, damping: z } = SPINE
  const wd = w * Math.sqrt(1 - z * z)
  const [E, C, S] = [Math.exp(-z * w * h), Math.cos(wd * h), Math.sin(wd * h)]
  let [x, v, most] = [0, 0, 0]
  for (let i = 1; i < a.length; i++) {
    const slope = (a[i]! - a[i - 1]!) / h
    // What a straight input holds by itself, at the beginning of the step and at its end.
    const p0 = a[i - 1]! / w ** 2 - (2 * z * slope) / w ** 3
    const [x0, v0] = [x - p0, v - slope / w ** 2]
    const free = E * (x0 * C + ((v0 + z * w * x0) / wd) * S)
    v = E * (v0 * C - ((z * w * v0 + w * w * x0) / wd) * S) + slope / w ** 2
    x = free + p0 + (slope * h) / w ** 2
    // At rest, but for numbers too small to count and slow to reckon with.
    if (Math.abs(x) < STILL && Math.abs(v) < STILL) x = v = 0
    if (x > most) most = x
  }
  return (w * w * most) / STANDARD_GRAVITY
}
