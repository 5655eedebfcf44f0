import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { pullFacts } from './facts'
import { pullFigures } from './figures'
import { proposePull, pullPlan, pullPlanning } from './plan'
import { reducePull } from './reduce'
import { pullSizing } from './sizing'
import { pullSpecimen } from './specimen'

const roles = {
  t: { label: 'Time', kind: 'time' as const },
  force: { label: 'Force', kind: 'force' as const },
  displacement: {
    label: 'Displacement',
    kind: 'length' as const,
    optional: true,
    aliases: ['displ', 'travel', 'weg', 'stroke'],
  },
}

/** Pull to break of ropes, straps, bars and joints: strength, what is retained of it, stiffness and energy. */
export const pull = defineFamily({
  id: 'pull',
  title: 'Pull',
  purpose:
    'Force and stretch to the break: strength against new, stiffness, energy; or call-outs alone, as an interval',
  version: '1.1.0',
  roles,
  // What was only called out has no record.
  rolesOf: s => (s.callouts ? null : roles),
  settings,
  results: {
    peakForce: {
      label: 'Largest force',
      kind: 'force',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how:
        'The largest reading; at least that where it did not break or the gauge stood at its end. From ' +
        'call-outs, between the last that was held and the next.',
    },
    retained: {
      label: 'Retained strength',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'Largest force over the strength when new.',
    },
    stiffness: {
      label: 'Stiffness',
      kind: 'stiffness',
      limited: 'atLeast',
      driver: 'stiffness',
      how: 'Least squares of force on stretch, 20 to 60 % of the largest force, way up.',
    },
    energyToPeak: {
      label: 'Energy to the peak',
      kind: 'energy',
      limited: 'atLeast',
      driver: 'energy',
      atEnd: true,
      how: 'Area under force over stretch up to the largest force.',
    },
    loadingRate: {
      label: 'Loading rate',
      kind: 'forceRate',
      how: 'Least squares of force on time, 20 to 90 % of the largest force, way up.',
    },
    timeAtPeak: {
      label: 'Time of the largest force',
      kind: 'time',
      how: 'Where the largest reading stands in the record.',
    },
    broke: {
      label: 'Broke',
      kind: 'ratio',
      isFlag: true,
      how: '1 where the force falls by the break’s share within its time, otherwise 0.',
    },
    gaugeUtilisation: {
      label: 'Gauge used',
      kind: 'ratio',
      how: 'Largest force over the gauge’s full scale; below a fifth the gauge is too large.',
    },
  },
  reduce: reducePull,
  propose: proposePull,
  figures: pullFigures,
  checked: { load: 'force' },
  ownOfRecord: ['zeroStart', 'gaugeFullScale', 'gaugeAccuracy', 'callouts', 'increment', 'recordedPeak', 'outcome'],
  links: { dropFraction: 'window', dropTime: 'window' },
  set: {
    results: ['peakForce', 'retained', 'stiffness', 'energyToPeak'],
    measure: { key: 'wear', label: 'Wear', kind: 'ratio', past: 'to be retired' },
  },
  stages: {
    facts: pullFacts,
    curves: {
      forceStretch: {
        title: 'Force over stretch',
        x: { label: 'Stretch', kind: 'length' },
        y: { label: 'Force', kind: 'force' },
      },
    },
    plan: pullPlan,
    planning: pullPlanning,
    specimen: pullSpecimen,
    sizing: pullSizing,
  },
})
