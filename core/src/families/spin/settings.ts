import { issue, plain, quantity, timeWindow } from '../../method/settings'
import type { Kind } from '../../quantity/index'
import * as z from 'zod'

export const limit = (kind: Kind, title: string) => quantity(kind, { title }).optional()

export const settings = z
  .object({
    armA: quantity('length', { title: 'Arm of cell A' }),
    armB: quantity('length', { title: 'Arm of cell B' }),
    settle: quantity('time', { title: 'Settles for', min: 0 }),
    minHold: quantity('time', { title: 'Shortest hold', positive: true }),
    holdTolerance: plain({ title: 'Set-point held within', positive: true }),
    diskArea: quantity('area', { title: 'Disk area', positive: true }).optional(),
    density: quantity('density', { title: 'Air density', positive: true }).default(1.225),
    zeroStart: timeWindow('Zero at the start').optional(),
    limits: z
      .object({
        thrust: limit('force', 'Thrust'),
        torque: limit('torque', 'Torque'),
        speed: limit('rotation', 'Speed'),
        voltage: limit('voltage', 'Voltage'),
        current: limit('current', 'Current'),
        temperature: limit('temperature', 'Temperature'),
        electricalPower: limit('power', 'Electrical power'),
        shaftPower: limit('power', 'Shaft power'),
      })
      .optional()
      .meta({ title: 'Not beyond' }),
    nextSetpoint: plain({ title: 'Next set-point', positive: true }).optional(),
  })
  .transform((s, ctx) =>
    s.settle < s.minHold
      ? s
      : issue(ctx, 'setting-range', 'It must settle in less than the shortest hold, or nothing is left to average.', [
          'settle',
        ]),
  )

export type SpinSettings = z.output<typeof settings>
