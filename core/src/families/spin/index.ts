import * as z from 'zod'
import { defineFamily } from '../../method/define'
import { issue, plain, quantity, timeWindow } from '../../method/settings'
import type { Kind } from '../../quantity/index'
import { carryOnSpin } from './carryOn'
import { spinFigures } from './figures'
import { proposeSpin, spinPlan, spinPlanning, spinPointOf } from './plan'
import { reduceSpin } from './reduce'
import { spinSizing } from './sizing'
import { spinSpecimen } from './specimen'

const limit = (kind: Kind, title: string) => quantity(kind, { title }).optional()

const settings = z
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

/** Motor, controller and rotor on a thrust bench, set-point by set-point. */
export const spin = defineFamily({
  id: 'spin',
  title: 'Spin',
  purpose: 'Thrust, torque, power and efficiency over set-points, and where the next one is heading',
  version: '1.0.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    setpoint: { label: 'Set-point', kind: 'ratio' },
    thrust: { label: 'Thrust', kind: 'force' },
    forceA: { label: 'Torque cell A', kind: 'force' },
    forceB: { label: 'Torque cell B', kind: 'force' },
    voltage: { label: 'Voltage', kind: 'voltage' },
    current: { label: 'Current', kind: 'current' },
    speed: { label: 'Speed', kind: 'rotation' },
    temperature: { label: 'Temperature', kind: 'temperature', optional: true },
    vibration: { label: 'Vibration', kind: 'acceleration', optional: true },
  },
  settings,
  results: {
    maxThrust: {
      label: 'Largest thrust',
      kind: 'force',
      limited: 'atLeast',
      driver: 'thrust',
      how: 'The largest mean thrust of a held set-point.',
    },
    maxElectricalPower: {
      label: 'Electrical power',
      kind: 'power',
      limited: 'atMost',
      driver: 'power',
      how: 'The largest mean of voltage times current, sample by sample.',
    },
    maxEfficiency: {
      label: 'Best efficiency',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'power',
      how: 'The best of torque times speed over electrical power; torque from both cells on their arms.',
    },
  },
  reduce: reduceSpin,
  propose: proposeSpin,
  figures: spinFigures,
  ownOfRecord: ['zeroStart', 'nextSetpoint'],
  links: { settle: 'window', minHold: 'window', holdTolerance: 'window' },
  set: { results: ['maxThrust', 'maxElectricalPower', 'maxEfficiency'] },
  carryOn: carryOnSpin,
  stages: {
    curves: {
      thrustSetpoint: {
        title: 'Thrust over set-point',
        x: { label: 'Set-point', kind: 'ratio' },
        y: { label: 'Thrust', kind: 'force' },
      },
      efficiencySetpoint: {
        title: 'Efficiency over set-point',
        x: { label: 'Set-point', kind: 'ratio' },
        y: { label: 'Efficiency', kind: 'ratio' },
      },
      thrustPerPower: {
        title: 'Thrust a watt over set-point',
        x: { label: 'Set-point', kind: 'ratio' },
        y: { label: 'Thrust a watt', kind: 'thrustPerPower' },
      },
    },
    plan: spinPlan,
    planning: spinPlanning,
    specimen: spinSpecimen,
    pointOf: spinPointOf,
    sizing: spinSizing,
  },
})
