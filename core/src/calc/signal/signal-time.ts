import * as z from 'zod'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { anyQuantity, quantity, siLike } from '../../method/settings'
import { evenInterval } from '../../signal/evenTime'
import { findLag } from '../../signal/lag'
import { findPlateaus } from '../../signal/plateaus'
import { plateauTable } from '../../method/plateauTable'

const t = { label: 'Time', kind: 'time' as const }

/** How much later one channel comes than the other. */
export const signalLag = defineCalc({
  id: 'signal-lag',
  example: { maxLag: { value: 1, unit: 's' } },
  title: 'Lag between two channels',
  purpose: 'Shift in time by cross-correlation',
  version: '1.0.0',
  roles: { t, a: { label: 'First', kind: 'any' }, b: { label: 'Second', kind: 'any' } },
  timeBase: 'even',
  settings: z.object({ maxLag: quantity('time', { title: 'Largest lag', positive: true }) }),
  calculate({ maxLag }, table) {
    const [a, b] = [table.channels['a']!, table.channels['b']!]
    const { lag, correlation, isAtLimit } = findLag(a, b, evenInterval(table.t), maxLag)
    if (!Number.isFinite(correlation))
      throw new HypometError('data-range', 'A channel that never changes has no lag.', { path: 'channels.a' })
    return {
      results: {
        lag: { value: lag, unit: 's', bound: 'exact' },
        correlation: { value: correlation, unit: '1', bound: 'exact' },
      },
      tables: {},
      warnings: isAtLimit
        ? [{ code: 'lag-at-limit', message: 'The best lag is the largest one looked at; the true one may lie beyond.' }]
        : [],
    }
  },
})

/** Steps of a guide channel, with means of all others. */
export const signalSteps = defineCalc({
  id: 'signal-steps',
  example: { holdTolerance: { value: 50, unit: 'N' }, minHold: { value: 5, unit: 's' } },
  title: 'Steps of a record',
  purpose: 'Plateaus of a guide channel and what every channel reads on them',
  version: '1.1.0',
  roles: {
    t,
    guide: { label: 'Guide', kind: 'any' },
    '*': { label: 'Any other channel', kind: 'any', optional: true },
  },
  settings: z.object({
    holdTolerance: anyQuantity({ title: 'Tolerance ±', positive: true }),
    minHold: quantity('time', { title: 'Shortest hold', positive: true }),
  }),
  calculate({ holdTolerance, minHold }, table) {
    const guide = table.channels['guide']!
    const plateaus = findPlateaus(
      table.t,
      guide,
      siLike(holdTolerance, table.units['guide']!, 'settings.holdTolerance'),
      minHold,
    )
    return {
      results: { count: { value: plateaus.length, unit: '1', bound: 'exact' } },
      tables: { steps: plateauTable(table.t, plateaus, table.channels, table.units) },
      warnings: [],
    }
  },
})
