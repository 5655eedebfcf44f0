import { HypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import { rowsWith, zeroedRows } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Reduction, ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { leastSquares } from '../../statistics/leastSquares'
import { meanRead } from '../../statistics/mean'
import { curveThrough } from '../../statistics/polynomial'
import { hasGap } from '../../signal/gaps'
import { plateausOf, type Plateau } from '../../signal/plateaus'
import { windowRange } from '../../signal/window'
import type { SpinSettings } from './settings'
import { limitedOf, NAMES, type LimitedQuantity } from './limited'

/** What was measured at one set-point, SI. */
export interface SpinPoint extends Record<string, number | null> {
  setpoint: number
  start: number
  end: number
  n: number
  /** Of what was not read at this set-point: null. */
  thrust: number | null
  torque: number | null
  speed: number | null
  voltage: number | null
  current: number | null
  electricalPower: number | null
  shaftPower: number | null
  efficiency: number | null
  thrustPerWatt: number | null
}

export const POINT_UNITS: Record<string, string> = {
  setpoint: '1',
  start: 's',
  end: 's',
  n: '1',
  thrust: 'N',
  torque: 'N·m',
  speed: 'rad/s',
  voltage: 'V',
  current: 'A',
  electricalPower: 'W',
  shaftPower: 'W',
  efficiency: '1',
  thrustPerWatt: 'N/W',
  figureOfMerit: '1',
  temperature: 'K',
  oncePerTurn: 'm/s²',
}

/**
 * Spin reduction: a row for each held set-point, from means once it has settled; torque from two cells on arms. With
 * limits
 * and a next set-point, where each limited quantity is heading.
 *
 * @param table  setpoint [1], thrust, forceA, forceB [N], voltage [V], current [A], speed [rad/s], temperature [K],
 * vibration [m/s², both optional]
 * @throws HypometError `no-event` where no set-point is held
 * @source methods.md, “spin”
 */
export function reduceSpin(table: Table, s: SpinSettings): Reduction {
  const warnings: Warning[] = []
  const rows = rowsWith(table, ['setpoint'])
  const { t, channels } = zeroedRows(rows, ['thrust', 'forceA', 'forceB'], s.zeroStart, warnings)
  const plateausHeld = plateausOf(t, channels['setpoint']!, s.holdTolerance)
  const plateaus = plateausHeld(s.minHold)
  const points = plateaus
    .map(({ from, to }) => pointOf(t, channels, s, from, to))
    .filter((p): p is SpinPoint => p !== null && Math.abs(p.setpoint) > s.holdTolerance)
  if (points.length === 0)
    throw new HypometError('no-event', 'No set-point is held long enough and steadily enough to be a point.', {
      path: 'channels.setpoint',
    })
  warnings.push(...shortHolds(t, channels['setpoint']!, plateausHeld(s.minHold / 2), plateaus, s))
  /** The largest over the points that have it; that some have none is said. */
  const most = (key: keyof SpinPoint, name: string) => {
    const values = points.flatMap(p => (Number.isFinite(p[key]) ? [p[key] as number] : []))
    if (values.length < points.length)
      warnings.push({ code: 'gap', message: `${name} was not read at every set-point; the others are what it is of.` })
    return values.length === 0 ? null : Math.max(...values)
  }
  const projection = projectionOf(points, s)
  const motor = motorOf(points)
  return {
    results: {
      maxThrust: exact(most('thrust', 'Thrust'), 'N'),
      maxElectricalPower: exact(most('electricalPower', 'Electrical power'), 'W'),
      maxEfficiency: exact(most('efficiency', 'Efficiency'), '1'),
    },
    tables: {
      points: tableOf(points, POINT_UNITS),
      ...(projection ? { projection } : {}),
      ...(motor ? { motor } : {}),
    },
    warnings: [...warnings, ...warningsOf(points, projection, s)],
    traces: {
      t,
      setpoint: channels['setpoint']!,
      thrust: channels['thrust']!,
      speed: channels['speed']!,
      current: channels['current']!,
    },
  }
}

function pointOf(
  t: Float64Array,
  channels: Table['channels'],
  s: SpinSettings,
  from: number,
  to: number,
): SpinPoint | null {
  const [start, end] = [t[from]!, t[to - 1]!]
  const first = windowRange(t, [start + s.settle, end])[0]
  if (first >= to) return null
  const mean = (y: Float64Array) => meanOf(y.subarray(first, to))
  const [volts, amps] = [channels['voltage']!, channels['current']!]
  const [thrust, speed] = [mean(channels['thrust']!), mean(channels['speed']!)]
  const torque = both(mean(channels['forceA']!), mean(channels['forceB']!), (a, b) => a * s.armA + b * s.armB)
  const watts = new Float64Array(to - first)
  for (let i = 0; i < watts.length; i++) watts[i] = volts[first + i]! * amps[first + i]!
  const electricalPower = meanOf(watts)
  const shaftPower = both(torque, speed, (a, b) => a * b)
  return {
    setpoint: mean(channels['setpoint']!)!,
    start,
    end,
    n: to - first,
    thrust,
    torque,
    speed,
    voltage: mean(volts),
    current: mean(amps),
    electricalPower,
    shaftPower,
    efficiency: both(shaftPower, electricalPower, (a, b) => a / b),
    thrustPerWatt: both(thrust, electricalPower, (a, b) => a / b),
    ...(s.diskArea === undefined
      ? {}
      : {
          figureOfMerit: both(thrust, shaftPower, (a, b) => a ** 1.5 / (Math.sqrt(2 * s.density * s.diskArea!) * b)),
        }),
    ...(channels['temperature'] ? { temperature: mean(channels['temperature']) } : {}),
    ...(channels['vibration']
      ? { oncePerTurn: oncePerTurn(t, channels['speed']!, channels['vibration'], first, to) }
      : {}),
  }
}

const both = (a: number | null, b: number | null, f: (a: number, b: number) => number): number | null =>
  a === null || b === null ? null : f(a, b)

/** Mean of what was read; null where nothing was. */
function meanOf(y: Float64Array): number | null {
  const mean = meanRead(y)
  return Number.isNaN(mean) ? null : mean
}

/** Set-points that were held for at least half of what makes a point, and for less than that. */
function shortHolds(
  t: Float64Array,
  setpoint: Float64Array,
  plateaus: readonly Plateau[],
  points: readonly Plateau[],
  s: SpinSettings,
): Warning[] {
  const held = plateaus.filter(
    p =>
      !points.some(q => q.from < p.to && p.from < q.to) &&
      Math.abs(meanRead(setpoint.subarray(p.from, p.to))) > s.holdTolerance,
  )
  if (held.length === 0) return []
  const longest = Math.max(...held.map(p => t[p.to - 1]! - t[p.from]!))
  return [
    {
      code: 'short-holds',
      message:
        `${held.length} ${held.length === 1 ? 'set-point was' : 'set-points were'} held for less than ${s.minHold} s ` +
        `and ${held.length === 1 ? 'is no point' : 'are no points'}; the longest of them for ` +
        `${longest.toPrecision(3)} s.`,
    },
  ]
}

/**
 * Amplitude of what comes once a turn, m/s²: the vibration taken with the turning angle itself, so that a speed that
 * wanders
 * a little does not blur it. Null where a turn has fewer than four samples, or one is missing.
 */
export function oncePerTurn(
  t: Float64Array,
  speed: Float64Array,
  vibration: Float64Array,
  from: number,
  to: number,
): number | null {
  let [angle, re, im, fastest, longest] = [0, 0, 0, 0, 0]
  if (hasGap(vibration.subarray(from, to)) || hasGap(speed.subarray(from, to))) return null
  const mean = meanRead(vibration.subarray(from, to))
  for (let i = from; i < to; i++) {
    if (i > from) {
      const dt = t[i]! - t[i - 1]!
      angle += (dt * (speed[i]! + speed[i - 1]!)) / 2
      if (dt > longest) longest = dt
    }
    if (Math.abs(speed[i]!) > fastest) fastest = Math.abs(speed[i]!)
    re += (vibration[i]! - mean) * Math.cos(angle)
    im += (vibration[i]! - mean) * Math.sin(angle)
  }
  return fastest * longest > Math.PI / 2 ? null : (2 * Math.hypot(re, im)) / (to - from)
}

/**
 * Each limited quantity at the next set-point, by a polynomial of at most the second degree through the points so far.
 */
function projectionOf(points: SpinPoint[], s: SpinSettings): ResultTable | null {
  const { limits, nextSetpoint } = s
  if (!limits || nextSetpoint === undefined) return null
  const rows = limitedOf(limits).flatMap(([quantity, limit]) => {
    const known = points.filter(p => typeof p[quantity] === 'number')
    if (known.length === 0) return []
    const predicted = curveThrough(
      known.map(p => ({ x: p.setpoint, y: p[quantity] as number })),
      nextSetpoint,
      s.holdTolerance,
    )
    return [{ quantity, predicted, limit, ok: predicted <= limit ? 1 : 0, unit: POINT_UNITS[quantity]! }]
  })
  return {
    columns: {
      quantity: rows.map(r => r.quantity),
      predicted: rows.map(r => r.predicted),
      limit: rows.map(r => r.limit),
      ok: rows.map(r => r.ok),
      unit: rows.map(r => r.unit),
    },
    units: { quantity: '', predicted: '', limit: '', ok: '1', unit: '' },
  }
}

/**
 * Constants of the motor from all its points: set-point times supply over current and speed gives resistance and volts
 * a
 * speed, torque over current gives torque a current and what turns it idle. Null below three points.
 */
function motorOf(points: SpinPoint[]): ResultTable | null {
  const known = points.flatMap(({ setpoint, current, speed, voltage, torque }) =>
    current === null || speed === null || voltage === null || torque === null
      ? []
      : [{ current, speed, volts: setpoint * voltage, torque }],
  )
  if (known.length < 3) return null
  try {
    const volts = leastSquares(
      known.map(p => [p.current, p.speed]),
      Float64Array.from(known, p => p.volts),
    )
    const torque = leastSquares(
      known.map(p => [1, p.current]),
      Float64Array.from(known, p => p.torque),
    )
    const [drag, perAmp] = [torque.coefficients[0]!, torque.coefficients[1]!]
    const rows = [
      { constant: 'winding resistance', value: volts.coefficients[0]!, unit: 'ohm' },
      { constant: 'voltage by speed', value: volts.coefficients[1]!, unit: 'V·s/rad' },
      { constant: 'torque by current', value: perAmp, unit: 'N·m/A' },
      { constant: 'current when idle', value: -drag / perAmp, unit: 'A' },
    ]
    return tableOf(rows, { constant: '', value: '', unit: '' })
  } catch (e) {
    // Points that do not differ determine nothing.
    if (e instanceof HypometError) return null
    throw e
  }
}

function warningsOf(points: SpinPoint[], projection: ResultTable | null, { limits }: SpinSettings): Warning[] {
  const over = limits
    ? limitedOf(limits).filter(([quantity, limit]) =>
        points.some(p => typeof p[quantity] === 'number' && (p[quantity] as number) > limit),
      )
    : []
  const ahead = projection ? projection.columns['quantity']!.filter((_, i) => projection.columns['ok']![i] === 0) : []
  return [
    ...(over.length > 0
      ? [
          {
            code: 'limit-exceeded',
            message: `Beyond its limit at a set-point: ${over.map(o => NAMES[o[0]]).join(', ')}.`,
          },
        ]
      : []),
    ...(ahead.length > 0
      ? [
          {
            code: 'limit-projected',
            message:
              `The next set-point is projected beyond its limit: ` +
              `${ahead.map(q => NAMES[q as LimitedQuantity]).join(', ')}. Do not command it before that is settled.`,
          },
        ]
      : []),
  ]
}
