import { HypometError } from '../../error'
import { exact } from '../../calc/answer'
import type { Table } from '../../method/table'
import type { Reduction } from '../../method/reduction'
import type { Warning } from '../../warning'
import { evenInterval } from '../../signal/evenTime'
import { cumulativeIntegral, indexOfMax, largestSize } from '../../signal/rising'
import { resample } from '../../signal/timeBase'
import { windowRange } from '../../signal/window'
import { zeroed } from '../../signal/zero'
import { dispersed } from './dispersion'
import type { BarSettings } from './settings'

/** Stress from which on rate and equilibrium are judged, of the peak. */
const JUDGED_FROM = 0.2
const IN_EQUILIBRIUM = 0.1
/** A gauge that reads less than so much of the incident wave is not told from its noise. */
const LEAST_WAVE = 0.02

type Window = readonly [number, number]

/**
 * Reduction of a specimen between two elastic bars: waves carried from the gauges to its faces, by one wave or by
 * three.
 *
 * @param table  incident, transmitted [1], even time base
 * @throws HypometError `no-event` where the three windows, carried to the specimen, have nothing in common
 * @source Kolsky (1949); Lindholm (1964); methods.md, “bar”
 */
export function reduceBar({ t, channels }: Table, s: BarSettings): Reduction {
  const interval = evenInterval(t)
  const c0 = Math.sqrt(s.barModulus / s.barDensity)
  const [ai, at] = [s.gaugeToSpecimenIncident / c0, s.gaugeToSpecimenTransmitted / c0]
  const { incident, transmitted } = towardLoading(t, channels, s)
  const wave = (gauge: Float64Array, window: Window, distance: number) =>
    s.dispersion
      ? dispersed(t, gauge, window, {
          distance,
          interval,
          c0,
          radius: Math.sqrt(s.barArea / Math.PI),
          poisson: s.barPoisson,
        })
      : gauge
  const [gi, gr, gt] = [
    wave(incident, s.incidentWindow, s.gaugeToSpecimenIncident),
    wave(incident, s.reflectedWindow, -s.gaugeToSpecimenIncident),
    wave(transmitted, s.transmittedWindow, -s.gaugeToSpecimenTransmitted),
  ]
  const [from, to] = windowRange(t, s.incidentWindow)
  const all = new Int32Array(Math.max(0, to - from))
  let n = 0
  for (let i = from; i < to; i++)
    if (inside(t[i]! + 2 * ai, s.reflectedWindow) && inside(t[i]! + ai + at, s.transmittedWindow)) all[n++] = i
  const rows = all.subarray(0, n)
  if (rows.length < 3)
    throw new HypometError(
      'no-event',
      'Carried to the specimen, the three windows have nothing in common: each wave passes its gauge as much ' +
        'later as it had to travel.',
      { path: 'settings.reflectedWindow' },
    )
  const ei = mapped(rows, i => gi[i]!)
  // Past the record's end its last sample stands.
  const later = (gauge: Float64Array, by: number) =>
    resample(
      t,
      gauge,
      mapped(rows, i => Math.min(t[i]! + by, t[t.length - 1]!)),
      'linear',
    )
  const [er, et] = [later(gr, 2 * ai), later(gt, ai + at)]
  const time = mapped(rows, i => t[i]! - t[rows[0]!]!)
  const EA = s.barModulus * s.barArea
  const [front, back] = [ei.map((v, k) => EA * (v + er[k]!)), et.map(v => EA * v)]
  const one = curveOf(
    time,
    er.map(v => (-2 * c0 * v) / s.specimenLength),
    back.map(f => f / s.specimenArea),
  )
  const three = curveOf(
    time,
    ei.map((v, k) => (c0 / s.specimenLength) * (v - er[k]! - et[k]!)),
    front.map((f, k) => (f + back[k]!) / (2 * s.specimenArea)),
  )
  const chosen = s.school === 'one-wave' ? one : three
  const peak = indexOfMax(chosen.stress)
  const start = chosen.stress.findIndex(v => v >= JUDGED_FROM * chosen.stress[peak]!)
  const over = (y: Float64Array) => y.subarray(start, peak + 1).reduce((a, b) => a + b, 0) / (peak + 1 - start)
  const imbalance = over(front.map((f, k) => Math.abs(f - back[k]!)))
  const equilibrium = imbalance / over(front.map((f, k) => (f + back[k]!) / 2))
  return {
    results: {
      waveSpeed: exact(c0, 'm/s'),
      peakStress: exact(chosen.stress[peak]!, 'Pa'),
      meanRate: exact(over(chosen.rate), '1/s'),
      strainAtPeak: exact(chosen.strain[peak]!, '1'),
      equilibrium: exact(equilibrium, '1'),
    },
    tables: {
      stressStrain: {
        columns: Object.fromEntries(
          Object.entries({
            time,
            strainOne: one.strain,
            stressOne: one.stress,
            rateOne: one.rate,
            strainThree: three.strain,
            stressThree: three.stress,
            rateThree: three.rate,
          }).map(([c, y]) => [c, Array.from(y)]),
        ),
        units: {
          time: 's',
          strainOne: '1',
          stressOne: 'Pa',
          rateOne: '1/s',
          strainThree: '1',
          stressThree: 'Pa',
          rateThree: '1/s',
        },
      },
    },
    warnings: warningsOf(s, equilibrium, ei, et),
    traces: {
      t,
      incident,
      transmitted,
      time,
      incidentWave: ei,
      reflectedWave: er,
      transmittedWave: et,
      front,
      back,
      strainOne: one.strain,
      stressOne: one.stress,
      rateOne: one.rate,
      strainThree: three.strain,
      stressThree: three.stress,
      rateThree: three.rate,
    },
  }
}

/** A number for each row. */
function mapped(rows: Int32Array, of: (row: number) => number): Float64Array {
  const y = new Float64Array(rows.length)
  for (let k = 0; k < rows.length; k++) y[k] = of(rows[k]!)
  return y
}

const inside = (t: number, [a, b]: Window): boolean => t >= a - 1e-9 && t <= b + 1e-9

/** Both gauges zeroed, and turned so that the incident wave counts as loading. */
function towardLoading(
  t: Float64Array,
  channels: Table['channels'],
  s: BarSettings,
): { incident: Float64Array; transmitted: Float64Array } {
  const read = (role: string) => (s.zeroStart ? zeroed(t, channels[role]!, s.zeroStart) : channels[role]!)
  const [incident, transmitted] = [read('incident'), read('transmitted')]
  const [from, to] = windowRange(t, s.incidentWindow)
  const sum = incident.subarray(from, to).reduce((a, b) => a + b, 0)
  return sum >= 0
    ? { incident, transmitted }
    : { incident: incident.map(v => -v), transmitted: transmitted.map(v => -v) }
}

const curveOf = (time: Float64Array, rate: Float64Array, stress: Float64Array) => ({
  rate,
  stress,
  strain: cumulativeIntegral(time, rate),
})

function warningsOf(s: BarSettings, equilibrium: number, ei: Float64Array, et: Float64Array): Warning[] {
  const list: Warning[] = []
  const overlap =
    Math.min(s.incidentWindow[1], s.reflectedWindow[1]) - Math.max(s.incidentWindow[0], s.reflectedWindow[0])
  if (overlap > 1e-9)
    list.push({
      code: 'waves-overlap',
      message:
        `The windows of the incident and the reflected wave share ${(1e6 * overlap).toFixed(1)} µs of one ` +
        `gauge: what is read there is the sum of both. Shorten them, or the striker.`,
    })
  if (!(equilibrium <= IN_EQUILIBRIUM))
    list.push({
      code: 'no-equilibrium',
      message:
        'The forces on both faces differ by more than a tenth: the specimen was not in equilibrium, and its ' +
        'stress is not one value.',
    })
  if (largestSize(et) < LEAST_WAVE * largestSize(ei))
    list.push({
      code: 'small-wave',
      message:
        'The transmitted wave is below a fiftieth of the incident one: it takes a softer output bar or more ' +
        'sensitive gauges.',
    })
  return list
}
