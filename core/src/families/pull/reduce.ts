import { HypometError } from '../../error'
import { exact } from '../../calc/answer'
import { noSlope, rowsWith, zeroedRows } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Bound, Reduction, Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { failureEvent } from '../../signal/failureEvent'
import { cumulativeIntegral, indexOfMax, largestSize, risingSlope, since } from '../../signal/rising'
import { checkRange } from '../../uncertainty/sensor'
import type { PullSettings } from './settings'

const STIFFNESS = [0.2, 0.6] as const
const RATE = [0.2, 0.9] as const
const AT_FULL_SCALE = 0.999
const CLIPPED_SAMPLES = 3

/**
 * Pull reduction. A specimen that did not break, or a gauge at its end, gives a lower bound; what was only called out
 * an interval between the last load that was confirmed and the next, with the gauge's uncertainty at both ends.
 *
 * @throws HypometError `over-range`, `setting-range` for a zero window without samples or a peak below the call-outs,
 *         `missing-setting` for call-outs that tell no increment
 * @source methods.md, “pull”
 */
export function reducePull(table: Table, s: PullSettings): Reduction {
  return s.callouts ? fromCallouts(s, s.callouts) : fromRecord(table, s)
}

function fromRecord(table: Table, s: PullSettings): Reduction {
  const warnings: Warning[] = []
  const zeroed = zeroedRows(table, ['force', 'displacement'], s.zeroStart, warnings)
  const { t, channels } = rowsWith(zeroed, ['force'])
  const [raw, force] = [rowsWith(table, ['force']).channels['force']!, channels['force']!]
  const peak = indexOfMax(force)
  const peakForce = force[peak]!
  if (s.gaugeFullScale) warnings.push(...checkRange('force', largestSize(raw), s.gaugeFullScale))
  const isClipped = s.gaugeFullScale !== undefined && clipped(raw, s.gaugeFullScale)
  if (isClipped)
    warnings.push({ code: 'clipped', message: 'The gauge stood at its end: the specimen carried at least that.' })
  const broke = failureEvent(t, force, s.dropFraction, s.dropTime) !== null
  const bound: Bound = broke && !isClipped ? 'exact' : 'atLeast'
  const uGauge = gaugeUncertainty(s)
  const loadingRate = risingSlope(since(t), force, force, peak, RATE)
  if (loadingRate === null) warnings.push(noSlope('No loading rate'))
  const stretch = zeroed.channels['displacement'] ? stretchOf(zeroed, t[peak]!, peakForce, warnings) : null
  const results: Record<string, Result> = {
    peakForce: { value: peakForce, unit: 'N', bound, ...(uGauge === null ? {} : { u: uGauge }) },
    timeAtPeak: exact(t[peak]!, 's'),
    broke: exact(broke ? 1 : 0, '1'),
    ...(s.referenceStrength === undefined
      ? {}
      : {
          retained: {
            value: peakForce / s.referenceStrength,
            unit: '1',
            bound,
            ...(uGauge === null ? {} : { u: uGauge / s.referenceStrength }),
          },
        }),
    loadingRate: exact(loadingRate, 'N/s'),
    ...stretch?.results,
  }
  if (s.gaugeFullScale) results['gaugeUtilisation'] = exact(peakForce / s.gaugeFullScale, '1')
  return { results, tables: {}, warnings, traces: { t, force, ...stretch?.traces } }
}

/** What needs force and displacement both: of the way up to the peak, whose own row may lack one. */
function stretchOf(
  table: Table,
  timeAtPeak: number,
  peakForce: number,
  warnings: Warning[],
): Pick<Reduction, 'results' | 'traces'> {
  const { t, channels } = rowsWith(table, ['force', 'displacement'])
  const [force, displacement] = [channels['force']!, channels['displacement']!]
  const last = t.findLastIndex(v => v <= timeAtPeak)
  const hasPeak = last >= 0 && t[last] === timeAtPeak
  const stiffness = risingSlope(displacement, force, force, last, STIFFNESS, peakForce)
  if (stiffness === null) warnings.push(noSlope('No stiffness'))
  if (!hasPeak)
    warnings.push({ code: 'gap', message: 'No displacement was read at the largest force: the energy ends before it.' })
  const energy = last < 0 ? null : cumulativeIntegral(displacement, force)[last]!
  return {
    results: {
      stiffness: exact(stiffness, 'N/m'),
      energyToPeak: { value: energy, unit: 'J', bound: hasPeak ? 'exact' : 'atLeast' },
    },
    traces: { displacement, forceAtDisplacement: force },
  }
}

/** Standard uncertainty by the gauge's stated accuracy, N; null where none is stated. */
const gaugeUncertainty = ({ gaugeAccuracy, gaugeFullScale }: PullSettings): number | null =>
  gaugeAccuracy === undefined || gaugeFullScale === undefined ? null : (gaugeAccuracy * gaugeFullScale) / Math.sqrt(3)

function clipped(force: Float64Array, fullScale: number): boolean {
  const most = force[indexOfMax(force)]!
  if (most < AT_FULL_SCALE * fullScale) return false
  let run = 0
  for (const v of force) {
    run = v === most ? run + 1 : 0
    if (run >= CLIPPED_SAMPLES) return true
  }
  return false
}

function fromCallouts(s: PullSettings, callouts: NonNullable<PullSettings['callouts']>): Reduction {
  const low = callouts.reduce((m, c) => Math.max(m, c.force), 0)
  const held = s.outcome === 'no-failure'
  const high = held ? low : nextAfter(low, s, callouts)
  const value = (low + high) / 2
  // Both ends were read off the same gauge.
  const U = 2 * (gaugeUncertainty(s) ?? 0)
  // What held is read off the gauge like any other; an interval holds what the gauge may be off, and says so by its u.
  const bounded = (per: number): Pick<Result, 'bound' | 'u'> => ({
    bound: held ? 'atLeast' : { interval: [(low - U) / per, (high + U) / per] },
    ...(U > 0 ? { u: U / 2 / per } : {}),
  })
  const results: Record<string, Result> = {
    peakForce: { value, unit: 'N', ...bounded(1) },
    ...(s.referenceStrength === undefined
      ? {}
      : { retained: { value: value / s.referenceStrength, unit: '1', ...bounded(s.referenceStrength) } }),
  }
  if (s.gaugeFullScale) results['gaugeUtilisation'] = exact(value / s.gaugeFullScale, '1')
  return {
    results,
    tables: {},
    warnings: s.gaugeFullScale ? checkRange('force', value, s.gaugeFullScale) : [],
    traces: {},
  }
}

/** Call-outs within so much of the largest are one. */
const SAME_CALL = 1e-6

/**
 * What a specimen that broke did not reach: the peak that something recorded, else one increment above the largest
 * call-out; as said, or the most common step of the calls, of equally common ones the largest.
 */
function nextAfter(low: number, s: PullSettings, callouts: NonNullable<PullSettings['callouts']>): number {
  if (s.recordedPeak !== undefined) {
    if (s.recordedPeak >= low) return s.recordedPeak
    throw new HypometError('setting-range', 'The recorded peak lies below the largest force called out.', {
      path: 'settings.recordedPeak',
    })
  }
  if (s.increment !== undefined) return low + s.increment
  const steps: { size: number; n: number }[] = []
  for (let i = 1; i < callouts.length; i++) {
    const size = callouts[i]!.force - callouts[i - 1]!.force
    if (size <= SAME_CALL * low) continue
    const same = steps.find(step => Math.abs(step.size - size) <= SAME_CALL * low)
    if (same) same.n++
    else steps.push({ size, n: 1 })
  }
  const [usual] = steps.sort((a, b) => b.n - a.n || b.size - a.size)
  if (usual) return low + usual.size
  throw new HypometError(
    'missing-setting',
    'One force called out does not say how far the next one was: give the increment, or the recorded peak.',
    { path: 'settings.increment' },
  )
}
