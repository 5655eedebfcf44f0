import { pieceField } from '../../method/pieces'
import { channelClass } from '../../calc/signal/signal-filter'
import { issue, quantity, timeWindow } from '../../method/settings'
import { STANDARD_GRAVITY } from '../../quantity/units'
import * as z from 'zod'

export const written = z.object({
  piece: pieceField('Drop of the run'),
  cfc: channelClass(),
  impactVelocity: quantity('velocity', { title: 'Impact velocity', positive: true }).optional(),
  dropHeight: quantity('length', { title: 'Drop height', positive: true }).optional(),
  mass: quantity('mass', { title: 'Mass', positive: true }).optional(),
  trigger: quantity('acceleration', { title: 'Pulse begins at', positive: true }).optional(),
  spine: z.boolean().default(false).meta({ title: 'Response index of a seated person' }),
  zeroStart: timeWindow('Zero at the start').optional(),
})

/** A height stands for the velocity that it gives. */
export const settings = written.transform(({ dropHeight, impactVelocity, ...s }, ctx) => {
  const velocity =
    impactVelocity ?? (dropHeight === undefined ? undefined : Math.sqrt(2 * STANDARD_GRAVITY * dropHeight))
  return {
    ...s,
    impactVelocity:
      velocity ?? issue(ctx, 'missing-setting', 'Give the impact velocity, or the drop height.', ['impactVelocity']),
  }
})

export type DropSettings = z.output<typeof settings>
