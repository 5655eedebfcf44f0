import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { followUpTorque } from './followUps'
import { torqueFacts } from './facts'
import { torqueFigures } from './figures'
import { proposeTorque, torquePlan, torquePlanning } from './plan'
import { reduceTorque } from './reduce'
import { torqueSizing } from './sizing'
import { torqueSpecimen } from './specimen'

/** Twist of shafts, joints and couplings to yield and break. */
export const torque = defineFamily({
  id: 'torque',
  title: 'Torque',
  purpose: 'Torsional stiffness, offset yield and break against the torque that is asked',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time', optional: true },
    torque: { label: 'Torque', kind: 'torque' },
    twist: { label: 'Twist', kind: 'angle', aliases: ['twist', 'angle', 'winkel', 'verdreh'] },
  },
  settings,
  results: {
    ultimateTorque: {
      label: 'Ultimate torque',
      kind: 'torque',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'The largest reading; at least that unless the article ended the test.',
    },
    yieldTorque: {
      label: 'Yield torque',
      kind: 'torque',
      limited: 'atLeast',
      driver: 'strength',
      how: 'Where the curve first crosses its elastic line moved by the offset, past half of the largest torque.',
    },
    stiffness: {
      label: 'Torsional stiffness',
      kind: 'torsionalStiffness',
      limited: 'atLeast',
      driver: 'stiffness',
      how: 'Least squares of torque on twist, 20 to 50 % of the largest torque, way up.',
    },
    factor: {
      label: 'Torque factor',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'Ultimate torque over the required one.',
    },
    twistAtPeak: { label: 'Twist at the largest torque', kind: 'angle', how: 'Twist read there.' },
    energyToPeak: {
      label: 'Energy to the peak',
      kind: 'energy',
      limited: 'atLeast',
      driver: 'energy',
      atEnd: true,
      how: 'Area under torque over twist up to there.',
    },
  },
  reduce: reduceTorque,
  propose: proposeTorque,
  figures: torqueFigures,
  checked: { load: 'torque' },
  ownOfRecord: ['zeroStart', 'outcome'],
  links: { offset: 'window' },
  set: { results: ['ultimateTorque', 'yieldTorque', 'stiffness'] },
  followUps: followUpTorque,
  stages: {
    facts: torqueFacts,
    curves: {
      torqueTwist: {
        title: 'Torque over twist',
        x: { label: 'Twist', kind: 'angle' },
        y: { label: 'Torque', kind: 'torque' },
      },
    },
    plan: torquePlan,
    planning: torquePlanning,
    specimen: torqueSpecimen,
    sizing: torqueSizing,
  },
})
