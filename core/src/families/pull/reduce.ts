import { exact } from '../../calc/answer'
import type { Table } from '../../method/table'
import type { Bound, Reduction, Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { failureEvent } from '../../signal/failureEvent'
import { cumulativeIntegral, indexOfMax, largestSize, risingSlope } from '../../signal/rising'
import { zeroed } from '../../signal/zero'
import { checkRange } from '../../uncertainty/sensor'
import type { PullSettings } from './settings'

const STIFFNESS = [0.2, 0.6] as const
const RATE = [0.2, 0.9] as const
const AT_FULL_SCALE = 0.999
const CLIPPED_SAMPLES = 3

/**
 * Pull reduction. A specimen that did not break, or a gauge at its end, gives a lower bound; what was only called out
 * an
 * interval between the last load that was confirmed and the next.
 *
 * @throws HypometError `over-range`, `data-range`, `setting-range` for a zero window without samples
 * @source methods.md, “pull”
 */
export function reducePull(table: Table, s: PullSettings): Reduction {
  return s.callouts ? fromCallouts(s, s.callouts) : fromRecord(table, s)
}

function fromRecord({ t, channels }: Table, s: PullSettings): Reduction {
  const raw = channels['force']!
  const force = s.zeroStart ? zeroed(t, raw, s.zeroStart) : raw
  const displacement =
    channels['displacement'] &&
    (s.zeroStart ? zeroed(t, channels['displacement'], s.zeroStart) : channels['displacement'])
  const peak = indexOfMax(force)
  const peakForce = force[peak]!
  const warnings: Warning[] = s.gaugeFullScale ? checkRange('force', largestSize(raw), s.gaugeFullScale) : []
  const isClipped = s.gaugeFullScale !== undefined && clipped(raw, s.gaugeFullScale)
  if (isClipped)
    warnings.push({ code: 'clipped', message: 'The gauge stood at its end: the specimen carried at least that.' })
  const broke = failureEvent(t, force, s.dropFraction, s.dropTime) !== null
  const bound: Bound = broke && !isClipped ? 'exact' : 'atLeast'
  const u =
    s.gaugeAccuracy !== undefined && s.gaugeFullScale !== undefined
      ? (s.gaugeAccuracy * s.gaugeFullScale) / Math.sqrt(3)
      : null
  const results: Record<string, Result> = {
    peakForce: { value: peakForce, unit: 'N', bound, ...(u === null ? {} : { u }) },
    timeAtPeak: exact(t[peak]!, 's'),
    broke: exact(broke ? 1 : 0, '1'),
    retained: {
      value: peakForce / s.referenceStrength,
      unit: '1',
      bound,
      ...(u === null ? {} : { u: u / s.referenceStrength }),
    },
    loadingRate: exact(risingSlope(t, force, force, peak, RATE, 'force'), 'N/s'),
  }
  if (displacement) {
    results['stiffness'] = exact(risingSlope(displacement, force, force, peak, STIFFNESS, 'force'), 'N/m')
    results['energyToPeak'] = exact(cumulativeIntegral(displacement, force)[peak]!, 'J')
  }
  if (s.gaugeFullScale) results['gaugeUtilisation'] = exact(peakForce / s.gaugeFullScale, '1')
  return { results, tables: {}, warnings, traces: { t, force, ...(displacement ? { displacement } : {}) } }
}

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
  const forces = callouts.map(c => c.force)
  const low = Math.max(...forces)
  const held = s.outcome === 'no-failure'
  const high = s.recordedPeak ?? low + (s.increment ?? forces.at(-1)! - (forces.at(-2) ?? 0))
  const value = held ? low : (low + high) / 2
  const bounded = (per: number): Bound => (held ? 'atLeast' : { interval: [low / per, high / per] })
  const results: Record<string, Result> = {
    peakForce: { value, unit: 'N', bound: bounded(1) },
    retained: { value: value / s.referenceStrength, unit: '1', bound: bounded(s.referenceStrength) },
  }
  if (s.gaugeFullScale) results['gaugeUtilisation'] = { value: value / s.gaugeFullScale, unit: '1', bound: 'exact' }
  return {
    results,
    tables: {},
    warnings: s.gaugeFullScale ? checkRange('force', value, s.gaugeFullScale) : [],
    traces: {},
  }
}
