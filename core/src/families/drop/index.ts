import * as z from 'zod'
import { channelClass } from '../../calc/signal-filter'
import { defineReducer } from '../../method/define'
import { issue, quantity, timeWindow } from '../../method/settings'
import { STANDARD_GRAVITY } from '../../quantity/units'
import { reduceDrop } from './reduce'

const written = z.object({
  cfc: channelClass(),
  impactVelocity: quantity('velocity', { title: 'Impact velocity', positive: true }).optional(),
  dropHeight: quantity('length', { title: 'Drop height', positive: true }).optional(),
  mass: quantity('mass', { title: 'Mass', positive: true }).optional(),
  trigger: quantity('acceleration', { title: 'Pulse begins at', positive: true }).optional(),
  spine: z.boolean().default(false).meta({ title: 'Response index of a seated person' }),
  zeroStart: timeWindow('Zero at the start').optional(),
})

/** A height stands for the velocity that it gives. */
const settings = written.transform(({ dropHeight, impactVelocity, ...s }, ctx) => {
  const velocity = impactVelocity ?? (dropHeight === undefined ? undefined : Math.sqrt(2 * STANDARD_GRAVITY * dropHeight))
  return { ...s, impactVelocity: velocity ?? issue(ctx, 'missing-setting', 'Give the impact velocity, or the drop height.', ['impactVelocity']) }
})

export type DropSettings = z.output<typeof settings>

/** Drops and impacts: the pulse behind its channel class, its velocity change, plateau, stroke and rebound. */
export const drop = defineReducer({
  id: 'drop',
  title: 'Drop',
  purpose: 'The pulse of an impact: peak, plateau, velocity change, stroke, rebound',
  version: '1.0.0',
  roles: { t: { label: 'Time', kind: 'time' }, acceleration: { label: 'Acceleration', kind: 'acceleration' } },
  timeBase: 'even',
  settings,
  results: {
    peak: { label: 'Peak deceleration', kind: 'acceleration', limited: 'atMost' },
    plateau: { label: 'Plateau', kind: 'acceleration', limited: 'atMost' },
    meanAcceleration: { label: 'Mean deceleration', kind: 'acceleration' },
    duration: { label: 'Duration', kind: 'time', limited: 'atMost' },
    deltaV: { label: 'Velocity change', kind: 'velocity' },
    rebound: { label: 'Rebound', kind: 'velocity', limited: 'atMost' },
    displacement: { label: 'Stroke', kind: 'length', limited: 'atMost' },
    peakForce: { label: 'Peak force', kind: 'force', limited: 'atMost' },
    responseIndex: { label: 'Response index', kind: 'ratio', limited: 'atMost' },
  },
  reduce: reduceDrop,
})
