import { HypometError } from '../../error'
import { exact } from '../../calc/answer'
import { rowsWith, zeroedRows } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Bound, Reduction, Result } from '../../method/reduction'
import { cumulativeIntegral, indexOfMax, isSloped } from '../../signal/rising'
import type { CrushSettings } from './settings'

/** Contact, and the least force that an efficiency is taken at, of the largest. */
const CONTACT = 0.01
/** An initial peak falls by so much of itself, and of the largest force, before it is exceeded. */
const DIP = { ofPeak: 0.05, ofLargest: 0.01 }
/** A densification in the last two hundredths of the loading is not one that was seen. */
const SEEN = 0.98

/**
 * Crush reduction. Where the efficiency ∫F dx / F is largest past the initial peak the tube is used up: what it took
 * until then is its energy.
 *
 * @param table  force [N], displacement [m]; t only for a zero window
 * @throws HypometError `no-event` without contact, `data-range` where nothing is left past the peak
 * @source methods.md, “crush”
 */
export function reduceCrush(table: Table, s: CrushSettings): Reduction {
  if (s.zeroStart && table.t.length === 0)
    throw new HypometError('missing-channel', 'A zero window needs a channel of time.', { path: 'channels.t' })
  const { t, channels } = rowsWith(zeroedRows(table, ['force'], s.zeroStart, []), ['force', 'displacement'])
  const force = channels['force']!
  if (!isSloped(channels['displacement']!))
    throw new HypometError('data-range', 'The displacement does not move where a force was read.', {
      path: 'channels.displacement',
    })
  const { x, f, energy } = loading(channels['displacement']!, force)
  const largest = f[indexOfMax(f)]!
  const efficiency = efficiencyOf(f, energy, CONTACT * largest)
  const used = indexOfMax(efficiency)
  const peak = initialPeak(f, used, largest) ?? f.findIndex(v => v >= energy[used]! / x[used]!)
  const past = efficiency.subarray(peak + 1)
  const end = peak + 1 + indexOfMax(past)
  if (!(efficiency[end]! > 0))
    throw new HypometError('data-range', 'Nothing was crushed past the initial peak.', {
      path: 'channels.displacement',
    })
  const densification = x[end]!
  const seen = densification < SEEN * x.at(-1)!
  const bound: Bound = seen ? 'exact' : 'atLeast'
  const meanForce = (energy[end]! - energy[peak]!) / (densification - x[peak]!)
  const bounded = (value: number, unit: string): Result => ({ value, unit, bound })
  return {
    results: {
      initialPeak: exact(f[peak]!, 'N'),
      densification: bounded(densification, 'm'),
      energy: bounded(energy[end]!, 'J'),
      meanForce: exact(meanForce, 'N'),
      specificEnergy: exact(energy[end]! / (s.linearMass * densification), 'J/kg'),
      forceEfficiency: exact(meanForce / f[peak]!, '1'),
      ...(s.length === undefined ? {} : { strokeEfficiency: bounded(densification / s.length, '1') }),
    },
    tables: {},
    warnings: seen
      ? []
      : [
          {
            code: 'no-densification',
            message: 'The crush ended before the tube was used up: stroke and energy are at least what they say.',
          },
        ],
    traces: { x, force: f, efficiency, t, whole: force },
  }
}

/** η = ∫F dx / F, m; nothing where the force is below what counts. */
function efficiencyOf(f: Float64Array, energy: Float64Array, floor: number): Float64Array {
  const eta = new Float64Array(f.length)
  for (let i = 0; i < f.length; i++) if (f[i]! > floor) eta[i] = energy[i]! / f[i]!
  return eta
}

/** From first contact up to the largest displacement, displacement counted from contact, with the energy so far. */
function loading(
  displacement: Float64Array,
  force: Float64Array,
): { x: Float64Array; f: Float64Array; energy: Float64Array } {
  const largest = force[indexOfMax(force)]!
  const contact = largest > 0 ? force.findIndex(v => v > CONTACT * largest) : -1
  if (contact < 0)
    throw new HypometError('no-event', 'There is no contact: the force never rises.', { path: 'channels.force' })
  const from = displacement.subarray(contact)
  const until = indexOfMax(from)
  if (until < 2)
    throw new HypometError('data-range', 'The displacement does not grow after the contact.', {
      path: 'channels.displacement',
    })
  const x = from.slice(0, until + 1)
  const start = displacement[contact]!
  for (let i = 0; i < x.length; i++) x[i]! -= start
  const f = force.slice(contact, contact + until + 1)
  return { x, f, energy: cumulativeIntegral(x, f) }
}

/** The first maximum before `used` from which the force falls far enough before it is exceeded. */
function initialPeak(f: Float64Array, used: number, largest: number): number | null {
  let at = 0
  for (let i = 1; i < f.length; i++) {
    if (f[i]! > f[at]!) {
      if (i >= used) return null
      at = i
    } else if (f[at]! - f[i]! >= Math.max(DIP.ofPeak * f[at]!, DIP.ofLargest * largest)) return at
  }
  return null
}
