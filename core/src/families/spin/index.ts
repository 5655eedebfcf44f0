import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { followUpSpin } from './followUps'
import { spinFacts } from './facts'
import { spinFigures } from './figures'
import { spinLive } from './live'
import { proposeSpin, spinPlan, spinPlanning, spinPointOf } from './plan'
import { reduceSpin } from './reduce'
import { spinSizing } from './sizing'
import { spinSpecimen } from './specimen'

/** Motor, controller and rotor on a thrust bench, set-point by set-point. */
export const spin = defineFamily({
  id: 'spin',
  title: 'Spin',
  purpose: 'Thrust, torque, power and efficiency over set-points, and where the next one is heading',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    setpoint: { label: 'Set-point', kind: 'ratio', aliases: ['set', 'throttle', 'demand', 'duty'] },
    thrust: { label: 'Thrust', kind: 'force', aliases: ['thrust', 'schub'] },
    forceA: { label: 'Torque cell A', kind: 'force' },
    forceB: { label: 'Torque cell B', kind: 'force' },
    voltage: { label: 'Voltage', kind: 'voltage' },
    current: { label: 'Current', kind: 'current' },
    speed: { label: 'Speed', kind: 'rotation' },
    temperature: { label: 'Temperature', kind: 'temperature', optional: true },
    vibration: { label: 'Vibration', kind: 'acceleration', aliases: ['vib', 'acc'], optional: true },
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
  checked: { load: 'setpoint' },
  ownOfRecord: ['zeroStart', 'nextSetpoint'],
  links: { settle: 'window', minHold: 'window', holdTolerance: 'window' },
  set: { results: ['maxThrust', 'maxElectricalPower', 'maxEfficiency'] },
  followUps: followUpSpin,
  stages: {
    facts: spinFacts,
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
    live: spinLive,
    pointOf: spinPointOf,
    sizing: spinSizing,
  },
})
