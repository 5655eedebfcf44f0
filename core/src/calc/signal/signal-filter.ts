import * as z from 'zod'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { type Table } from '../../method/table'
import type { Reduction } from '../../method/reduction'
import type { Warning } from '../../warning'
import { oneOrList, plain, quantity } from '../../method/settings'
import { butterworth } from '../../signal/butterworth'
import { CHANNEL_CLASSES, channelClassSection, rateWarnings } from '../../signal/channelClass'
import { evenInterval } from '../../signal/evenTime'
import { filterZeroPhase, paddingOf, type Section } from '../../signal/sections'

export const SIGNAL_ROLES = {
  t: { label: 'Time', kind: 'time' as const },
  signal: { label: 'Signal', kind: 'any' as const },
}

const frequency = quantity('frequency', { title: 'Cutoff', positive: true })

/** Butterworth filter, forward and backward: no phase, twice the attenuation. */
export const signalButterworth = defineCalc({
  id: 'signal-butterworth',
  example: { kind: 'low', cutoff: { value: 10, unit: 'Hz' } },
  title: 'Zero-phase Butterworth filter',
  purpose: 'Low, high or band pass without a shift in time',
  version: '1.0.0',
  roles: SIGNAL_ROLES,
  timeBase: 'even',
  settings: z.object({
    kind: z.enum(['low', 'high', 'band']),
    order: plain({ title: 'Order', positive: true, max: 12, whole: true }).default(4),
    cutoff: oneOrList(frequency, z.tuple([frequency, frequency])).meta({ title: 'Cutoff', kind: 'frequency' }),
  }),
  calculate: (s, table) => filtered(table, butterworth({ ...s, sampleRate: 1 / evenInterval(table.t) }), []),
})

/** Channel frequency class filter for impact data, phaseless. */
export const signalChannelClass = defineCalc({
  id: 'signal-cfc',
  example: { cfc: 180 },
  title: 'Channel frequency class filter',
  purpose: 'The phaseless two-pole filter of impact testing',
  version: '1.0.0',
  roles: SIGNAL_ROLES,
  timeBase: 'even',
  settings: z.object({ cfc: channelClass() }),
  calculate(s, table) {
    const interval = evenInterval(table.t)
    return filtered(table, [channelClassSection(s.cfc, interval)], rateWarnings(s.cfc, interval))
  },
})

/** One of the four classes. */
export function channelClass() {
  return plain({ title: 'Channel frequency class', oneOf: CHANNEL_CLASSES })
}

function filtered({ t, channels, units }: Table, sections: Section[], warnings: Warning[]): Omit<Reduction, 'traces'> {
  const x = channels['signal']!
  const unit = units['signal']!
  if (x.length <= paddingOf(sections))
    throw new HypometError(
      'data-range',
      `The record has ${x.length} samples; this filter needs more than ${paddingOf(sections)}.`,
      { path: 'channels.signal' },
    )
  const y = filterZeroPhase(sections, x)
  let [max, min, squares] = [-Infinity, Infinity, 0]
  for (const v of y) {
    if (v > max) max = v
    if (v < min) min = v
    squares += v * v
  }
  const result = (value: number) => ({ value, unit, bound: 'exact' as const })
  return {
    results: { max: result(max), min: result(min), rms: result(Math.sqrt(squares / y.length)) },
    tables: { filtered: { columns: { t: Array.from(t), signal: Array.from(y) }, units: { t: 's', signal: unit } } },
    warnings,
  }
}
