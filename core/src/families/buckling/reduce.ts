import { exact, tableOf } from '../../calc/answer'
import { classicalForce, lowerBoundFactor, lowerBoundFactorBending } from '../../calc/strength/shell'
import { HypometError } from '../../error'
import { noSlope, rowsWith, zeroedRows } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Reduction, ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { indexOfMax, isSloped } from '../../signal/rising'
import { fitLine } from '../../statistics/line'
import { meanSd } from '../../statistics/mean'
import { median as medianOf } from '../../statistics/quantile'
import type { BucklingSettings } from './settings'
import { waveAround } from './wave'

const BINS = 50
const REFERENCE = [0.2, 0.5] as const
const STEEPER = 3
const LOADS = ['force', 'moment', 'pressure'] as const

/**
 * Buckling reduction of a thin cylinder under force, moment and inner pressure: what it carried of the classical load,
 * where its deflections began to run away, and what they foretold. All of it goes by the compressive line load on the
 * side that the moment presses, N = P/(2πR) + |M|/(πR²) − pR/2: the largest force need not be the worst.
 *
 * @param table  force [N, compression positive], moment [N·m], pressure [Pa, both optional], free deflections [m]
 * @throws HypometError `no-event` where the line load never rises above zero
 * @source methods.md, “buckling”; Southwell (1932); NASA SP-8007 (1968)
 */
export function reduceBuckling(table: Table, s: BucklingSettings): Reduction {
  const warnings: Warning[] = []
  const free = Object.keys(table.channels).filter(r => !LOADS.includes(r as (typeof LOADS)[number]))
  const { t, channels, units } = rowsWith(zeroedRows(table, ['force', 'moment', ...free], s.zeroStart, warnings), LOADS)
  const R = s.radius
  const force = channels['force']!
  const { moment, pressure } = channels
  const guide = force.map(
    (P, i) => P / (2 * Math.PI * R) + Math.abs(moment?.[i] ?? 0) / (Math.PI * R * R) - ((pressure?.[i] ?? 0) * R) / 2,
  )
  const peak = indexOfMax(guide)
  const N = guide[peak] ?? NaN
  if (!(N > 0))
    throw new HypometError('no-event', 'The wall is never pressed; compression counts as positive.', {
      path: 'channels.force',
    })
  const [P, M, p] = [force[peak]!, Math.abs(moment?.[peak] ?? 0), pressure?.[peak] ?? 0]
  const classical = perfectForceOf(s)
  const perfect = classical + Math.PI * R * R * p
  const design = designFactors(s, P, M, moment !== undefined)
  const knockdown = (P + (2 * M) / R) / perfect
  const factor = s.designFactor ?? (moment ? design.atPeak : design.axial)
  const deflections = free.filter(r => units[r] === 'm').map(r => [r, channels[r]!] as const)
  const southwell = deflections.map(([channel, y]) => {
    const { slope, r2 } = southwellOf(guide, y, peak, s.southwellRange)
    return { channel, force: slope && slope * 2 * Math.PI * R, r2 }
  })
  if (southwell.some(c => c.force === null))
    warnings.push(
      noSlope(`No Southwell line of ${southwell.flatMap(c => (c.force === null ? [c.channel] : [])).join(', ')}`),
    )
  const onsets = deflections.map(([channel, y]) => ({ channel, onset: onsetOf(guide, y, peak) }))
  const onset = onsets.reduce<number | null>(
    (m, o) => (o.onset === null || (m ?? Infinity) < o.onset ? m : o.onset),
    null,
  )
  const wave = waveAround(channels, peak, s.ring)
  const median = (values: (number | null)[]) => {
    const known = values.filter((v): v is number => v !== null && Number.isFinite(v))
    return known.length === 0 ? null : medianOf(known)
  }
  return {
    results: {
      peakForce: exact(P, 'N'),
      ...(moment ? { momentAtPeak: exact(moment[peak]!, 'N·m') } : {}),
      ...(pressure ? { pressureAtPeak: exact(p, 'Pa') } : {}),
      maxLineLoad: exact(N, 'N/m'),
      classicalForce: exact(classical, 'N'),
      perfectForce: exact(perfect, 'N'),
      knockdown: exact(knockdown, '1'),
      designKnockdown: exact(design.axial, '1'),
      ...(moment
        ? { designKnockdownBending: exact(design.bending, '1'), designKnockdownAtPeak: exact(design.atPeak, '1') }
        : {}),
      margin: exact(factor === null ? null : knockdown / factor - 1, '1'),
      southwellForce: exact(median(southwell.map(c => c.force)), 'N'),
      southwellR2: exact(median(southwell.map(c => c.r2)), '1'),
      onsetLineLoad: exact(onset, 'N/m'),
      onsetForce: exact(onset && onset * 2 * Math.PI * R, 'N'),
      ...(wave ? { waveNumber: exact(wave.number, '1') } : {}),
    },
    tables: {
      ...(southwell.length > 0 ? { southwell: tableOf(southwell, { channel: '', force: 'N', r2: '1' }) } : {}),
      ...(onsets.length > 0 ? { onsets: tableOf(onsets, { channel: '', onset: 'N/m' }) } : {}),
      ...(wave ? { waves: wave.table } : {}),
      ...(design.axial === null ? {} : { schools: schools(s, classical, design.axial) }),
    },
    warnings: [
      ...warnings,
      ...(s.expectsMoment && !moment ? [MOMENT_MISSING] : []),
      ...(design.axial === null ? [NO_THICKNESS] : []),
      ...warningsOf(deflections.length, p, perfect, wave),
    ],
    traces: {
      t,
      force,
      guide,
      peak: Float64Array.of(peak),
      moment: moment ?? new Float64Array(force.length),
      pressure: pressure ?? new Float64Array(force.length),
      ...Object.fromEntries(deflections.map(([r, y]) => [`deflection:${r}`, y])),
    },
  }
}

const MOMENT_MISSING: Warning = {
  code: 'moment-missing',
  message: 'A moment acts, but none was read: the wall was pressed by more than the force alone says.',
}
const NO_THICKNESS: Warning = {
  code: 'no-thickness',
  message: 'No equivalent thickness is given: there is no lower bound to hold this wall against.',
}

/** Force at which the perfect shell would buckle without pressure, N: of its line load, or of an even wall. */
function perfectForceOf({ perfectLineLoad, radius, thickness, modulus, poisson }: BucklingSettings): number {
  if (perfectLineLoad !== undefined) return perfectLineLoad * 2 * Math.PI * radius
  return classicalForce({ thickness: thickness!, modulus: modulus!, poisson: poisson! })
}

/** Lower bounds of tested shells; at the peak by what of its line load is force and what moment. */
function designFactors(
  s: BucklingSettings,
  P: number,
  M: number,
  bent: boolean,
): Record<'axial' | 'bending' | 'atPeak', number | null> {
  const { radius } = s
  const thickness = s.perfectLineLoad === undefined ? s.thickness : s.equivalentThickness
  if (thickness === undefined) return { axial: null, bending: null, atPeak: null }
  const axial = lowerBoundFactor({ radius, thickness })
  const bending = lowerBoundFactorBending({ radius, thickness })
  const [a, b] = [Math.max(P, 0) / (2 * Math.PI * radius), M / (Math.PI * radius ** 2)]
  return { axial, bending, atPeak: bent ? (a + b) / (a / axial + b / bending) : axial }
}

/** Line of deflection on deflection over load, on the way up, the load within a range of the peak; null without one. */
export function southwellOf(
  guide: Float64Array,
  y: Float64Array,
  peak: number,
  [low, high]: readonly [number, number],
): { slope: number | null; r2: number | null } {
  const [from, to] = [low * guide[peak]!, high * guide[peak]!]
  const [allX, allD] = [new Float64Array(peak + 1), new Float64Array(peak + 1)]
  let n = 0
  for (let i = 0; i <= peak; i++) {
    if (guide[i]! < from || guide[i]! > to || Number.isNaN(y[i]!)) continue
    allX[n] = y[i]! / guide[i]!
    allD[n++] = y[i]!
  }
  const [x, d] = [allX.subarray(0, n), allD.subarray(0, n)]
  if (!isSloped(x) || !isSloped(d)) return { slope: null, r2: null }
  const { slope, residualSd } = fitLine(x, d)
  const total = meanSd(d).sd ** 2 * (n - 1)
  return { slope, r2: 1 - (residualSd ** 2 * (n - 2)) / total }
}

/**
 * Load at which a deflection begins to grow three times as fast as it did between a fifth and a half of the peak; null
 * where it never does.
 */
export function onsetOf(guide: Float64Array, y: Float64Array, peak: number): number | null {
  const N = guide[peak]!
  const [loads, deflections, counts] = [new Float64Array(BINS), new Float64Array(BINS), new Float64Array(BINS)]
  for (let i = 0; i <= peak; i++) {
    const [load, deflection] = [guide[i]!, y[i]!]
    if (load < 0 || Number.isNaN(deflection)) continue
    const bin = Math.min(BINS - 1, Math.floor((BINS * load) / N))
    loads[bin]! += load
    deflections[bin]! += deflection
    counts[bin]!++
  }
  const means = Array.from(counts, (n, k) => ({ load: loads[k]! / n, y: deflections[k]! / n })).filter(
    b => !Number.isNaN(b.load),
  )
  const slopes = means.slice(1).map((b, i) => ({
    at: (b.load + means[i]!.load) / 2,
    slope: Math.abs((b.y - means[i]!.y) / (b.load - means[i]!.load)),
  }))
  const reference = slopes.filter(c => c.at >= REFERENCE[0] * N && c.at <= REFERENCE[1] * N).map(c => c.slope)
  if (reference.length === 0) return null
  const usual = medianOf(reference)
  return slopes.find(c => c.at > REFERENCE[1] * N && c.slope > STEEPER * usual)?.at ?? null
}

/** A wall for the same force under both schools of design factor: what the difference weighs. */
function schools(s: BucklingSettings, classical: number, lower: number): ResultTable {
  const rows = [
    { school: 'lower bound of tests', factor: lower },
    ...(s.designFactor === undefined ? [] : [{ school: 'from imperfections or tests', factor: s.designFactor }]),
  ]
  const { thickness } = s
  const mass = (wall: number | null) =>
    wall === null || s.length === undefined || s.density === undefined
      ? null
      : 2 * Math.PI * s.radius * wall * s.length * s.density
  return tableOf(
    rows.map(r => {
      // Walls that carry what this one was to carry by the lower bound.
      const wall = thickness === undefined ? null : thickness * Math.sqrt(lower / r.factor)
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
