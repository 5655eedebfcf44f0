import { exact, tableOf } from '../../calc/answer'
import { classicalForce, lowerBoundFactor } from '../../calc/strength/shell'
import { HypometError } from '../../error'
import type { Table } from '../../method/table'
import type { Reduction, ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { indexOfMax } from '../../signal/rising'
import { zeroed } from '../../signal/zero'
import { fitLine } from '../../statistics/line'
import { median as medianOf } from '../../statistics/quantile'
import type { BucklingSettings } from './settings'
import { waveAround } from './wave'

const BINS = 50
const REFERENCE = [0.2, 0.5] as const
const STEEPER = 3

/**
 * Buckling reduction of a thin cylinder under force, moment and inner pressure: what it carried of the classical force,
 * where
 * its deflections began to run away, and what they foretold.
 *
 * @param table  force [N, compression positive], moment [N·m], pressure [Pa, both optional], free deflections [m]
 * @throws HypometError `no-event` where the force never rises
 * @source methods.md, “buckling”; Southwell (1932)
 */
export function reduceBuckling({ t, channels: raw, units }: Table, s: BucklingSettings): Reduction {
  const window = s.zeroStart
  const channels = window
    ? Object.fromEntries(Object.entries(raw).map(([r, y]) => [r, r === 'pressure' ? y : zeroed(t, y, window)]))
    : raw
  const force = channels['force']!
  const peak = indexOfMax(force)
  const P = force[peak]!
  if (!(P > 0))
    throw new HypometError('no-event', 'The force never rises above zero; compression counts as positive.', {
      path: 'channels.force',
    })
  const [M, p] = [channels['moment']?.[peak] ?? 0, channels['pressure']?.[peak] ?? 0]
  const R = s.radius
  const classical = classicalForce(s)
  const perfect = classical + Math.PI * R * R * p
  const design = lowerBoundFactor(s)
  const knockdown = (P + (2 * M) / R) / perfect
  const deflections = Object.entries(channels).filter(
    ([r]) => !['force', 'moment', 'pressure'].includes(r) && units[r] === 'm',
  )
  const southwell = deflections.map(([channel, y]) => ({ channel, ...southwellOf(force, y, peak, s.southwellRange) }))
  const onsets = deflections.map(([channel, y]) => ({ channel, onset: onsetOf(force, y, peak) }))
  const onset = onsets
    .map(o => o.onset)
    .filter(v => v !== null)
    .reduce<number | null>((m, v) => (m === null || v < m ? v : m), null)
  const wave = waveAround(channels, peak, s.ring)
  const median = (values: (number | null)[]) => {
    const known = values.filter((v): v is number => v !== null && Number.isFinite(v))
    return known.length === 0 ? null : medianOf(known)
  }
  return {
    results: {
      peakForce: exact(P, 'N'),
      classicalForce: exact(classical, 'N'),
      perfectForce: exact(perfect, 'N'),
      knockdown: exact(knockdown, '1'),
      designKnockdown: exact(design, '1'),
      margin: exact(knockdown / (s.designFactor ?? design) - 1, '1'),
      maxLineLoad: exact(P / (2 * Math.PI * R) + M / (Math.PI * R * R) - (p * R) / 2, 'N/m'),
      southwellForce: exact(median(southwell.map(c => c.force)), 'N'),
      southwellR2: exact(median(southwell.map(c => c.r2)), '1'),
      onsetForce: exact(onset, 'N'),
      ...(wave ? { waveNumber: exact(wave.number, '1') } : {}),
    },
    tables: {
      ...(southwell.length > 0 ? { southwell: tableOf(southwell, { channel: '', force: 'N', r2: '1' }) } : {}),
      ...(onsets.length > 0 ? { onsets: tableOf(onsets, { channel: '', onset: 'N' }) } : {}),
      ...(wave ? { waves: wave.table } : {}),
      schools: schools(s, classical, design),
    },
    warnings: warningsOf(deflections.length, p, perfect, wave),
    traces: {
      t,
      force,
      peak: Float64Array.of(peak),
      moment: channels['moment'] ?? new Float64Array(force.length),
      pressure: channels['pressure'] ?? new Float64Array(force.length),
      ...Object.fromEntries(deflections.map(([r, y]) => [`deflection:${r}`, y])),
    },
  }
}

/** Slope of deflection on deflection over force, on the way up, the force within a range of the peak. */
export function southwellOf(
  force: Float64Array,
  y: Float64Array,
  peak: number,
  [low, high]: readonly [number, number],
): { force: number | null; r2: number | null } {
  const [from, to] = [low * force[peak]!, high * force[peak]!]
  const x: number[] = []
  const d: number[] = []
  for (let i = 0; i <= peak; i++) {
    if (force[i]! < from || force[i]! > to || Number.isNaN(y[i]!)) continue
    x.push(y[i]! / force[i]!)
    d.push(y[i]!)
  }
  if (x.length < 3) return { force: null, r2: null }
  const { slope, residualSd } = fitLine(x, d)
  const mean = d.reduce((a, b) => a + b, 0) / d.length
  const total = d.reduce((a, b) => a + (b - mean) ** 2, 0)
  return { force: slope, r2: 1 - (residualSd ** 2 * (x.length - 2)) / total }
}

/**
 * Load at which a deflection begins to grow three times as fast as it did between a fifth and a half of the peak; null
 * where it never does.
 */
export function onsetOf(force: Float64Array, y: Float64Array, peak: number): number | null {
  const P = force[peak]!
  const sums = Array.from({ length: BINS }, () => ({ load: 0, y: 0, n: 0 }))
  for (let i = 0; i <= peak; i++) {
    if (force[i]! < 0 || Number.isNaN(y[i]!)) continue
    const bin = sums[Math.min(BINS - 1, Math.floor((BINS * force[i]!) / P))]!
    bin.load += force[i]!
    bin.y += y[i]!
    bin.n++
  }
  const means = sums.filter(b => b.n > 0).map(b => ({ load: b.load / b.n, y: b.y / b.n }))
  const slopes = means.slice(1).map((b, i) => ({
    at: (b.load + means[i]!.load) / 2,
    slope: Math.abs((b.y - means[i]!.y) / (b.load - means[i]!.load)),
  }))
  const reference = slopes.filter(c => c.at >= REFERENCE[0] * P && c.at <= REFERENCE[1] * P).map(c => c.slope)
  if (reference.length === 0) return null
  const usual = medianOf(reference)
  return slopes.find(c => c.at > REFERENCE[1] * P && c.slope > STEEPER * usual)?.at ?? null
}

/** A wall for the same force under both schools of design factor: what the difference weighs. */
function schools(s: BucklingSettings, classical: number, lower: number): ResultTable {
  const rows = [
    { school: 'lower bound of tests', factor: lower },
    ...(s.designFactor === undefined ? [] : [{ school: 'from imperfections or tests', factor: s.designFactor }]),
  ]
  const mass = (wall: number) =>
    s.length === undefined || s.density === undefined ? null : 2 * Math.PI * s.radius * wall * s.length * s.density
  return tableOf(
    rows.map(r => {
      // Walls that carry what this one was to carry by the lower bound.
      const wall = s.thickness * Math.sqrt(lower / r.factor)
      return { ...r, allowed: r.factor * classical, wall, mass: mass(wall) }
    }),
    { school: '', factor: '1', allowed: 'N', wall: 'm', mass: 'kg' },
  )
}

function warningsOf(
  deflections: number,
  pressure: number,
  perfect: number,
  wave: ReturnType<typeof waveAround>,
): Warning[] {
  const list: Warning[] = []
  if (deflections === 0)
    list.push({ code: 'no-deflection', message: 'No deflection was read: there is no onset and no predicted load.' })
  if (pressure < 0 || !(perfect > 0))
    list.push({
      code: 'outer-pressure',
      message: 'The pressure at the peak presses inward: the perfect force does not count that as buckling by itself.',
    })
  if (wave?.warning) list.push(wave.warning)
  return list
}
