import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { followUpDrop } from './followUps'
import { dropFacts } from './facts'
import { dropFigures } from './figures'
import { dropLive } from './live'
import { dropPlan, dropPlanning, proposeDrop, recordedDrop } from './plan'
import { reduceDrop } from './reduce'
import { dropSizing } from './sizing'
import { dropSpecimen } from './specimen'

/** Drops and impacts: the pulse behind its channel class, its velocity change, plateau, stroke and rebound. */
export const drop = defineFamily({
  id: 'drop',
  title: 'Drop',
  purpose: 'The pulse of an impact: peak, plateau, velocity change, stroke, rebound',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    acceleration: { label: 'Acceleration', kind: 'acceleration' },
    input: {
      label: 'Input, beside the seat',
      kind: 'acceleration',
      aliases: ['input', 'sled', 'floor'],
      optional: true,
    },
  },
  timeBase: 'even',
  settings,
  results: {
    peak: {
      label: 'Peak deceleration',
      kind: 'acceleration',
      limited: 'atMost',
      driver: 'energy',
      how: 'The largest value behind the channel class; with a trigger, of the first pulse that reaches it.',
    },
    plateau: {
      label: 'Plateau',
      kind: 'acceleration',
      limited: 'atMost',
      driver: 'energy',
      how:
        'Mean over time between the pulse’s first and last crossing of nine tenths of the level that its samples ' +
        'above half of the peak have in the middle.',
    },
    meanAcceleration: { label: 'Mean deceleration', kind: 'acceleration', how: 'Velocity change over duration.' },
    duration: {
      label: 'Duration',
      kind: 'time',
      limited: 'atMost',
      driver: 'energy',
      how: 'Between the crossings of a twentieth of the peak nearest to it.',
    },
    deltaV: {
      label: 'Velocity change',
      kind: 'velocity',
      how: 'Area under the pulse: impact velocity and rebound together.',
    },
    rebound: {
      label: 'Rebound',
      kind: 'velocity',
      limited: 'atMost',
      driver: 'energy',
      how: 'Velocity change less the impact velocity; far below nothing says that the velocity or the gauge is wrong.',
    },
    restitution: { label: 'Restitution', kind: 'ratio', how: 'Rebound over impact velocity.' },
    displacement: {
      label: 'Stroke',
      kind: 'length',
      limited: 'atMost',
      driver: 'energy',
      how: 'The largest way, by integrating the pulse twice from the impact velocity.',
    },
    peakForce: {
      label: 'Peak force',
      kind: 'force',
      limited: 'atMost',
      driver: 'energy',
      how: 'Mass times peak deceleration.',
    },
    responseIndex: {
      label: 'Response index',
      kind: 'ratio',
      limited: 'atMost',
      driver: 'energy',
      how: 'Largest compression of a sprung spine (52.9 rad/s, damping 0.224) as an acceleration over g.',
    },
    inputPeak: {
      label: 'Peak of the input',
      kind: 'acceleration',
      how: 'The largest value of the floor or sled behind the same class.',
    },
    inputDeltaV: { label: 'Velocity change of the input', kind: 'velocity', how: 'Area under its pulse.' },
    transmissibility: {
      label: 'Transmissibility',
      kind: 'ratio',
      limited: 'atMost',
      driver: 'energy',
      how: 'Peak over the peak of the input.',
    },
    attenuation: {
      label: 'Plateau over input',
      kind: 'ratio',
      limited: 'atMost',
      driver: 'energy',
      how: 'Plateau over the peak of the input.',
    },
    pulseStart: { label: 'Pulse begins', kind: 'time', how: 'Crossing of a twentieth of the peak before it.' },
    pulseEnd: { label: 'Pulse ends', kind: 'time', how: 'Crossing of a twentieth of the peak after it.' },
  },
  inPieces: { what: 'drop', usual: recordedDrop },
  reduce: reduceDrop,
  propose: proposeDrop,
  figures: dropFigures,
  checked: { load: 'acceleration' },
  ownOfRecord: ['piece', 'zeroStart', 'impactVelocity', 'dropHeight'],
  links: { piece: 'window', cfc: 'filter', trigger: 'window' },
  set: { results: ['peak', 'plateau', 'deltaV', 'rebound', 'displacement'] },
  followUps: followUpDrop,
  stages: {
    facts: dropFacts,
    curves: {
      pulse: {
        title: 'Deceleration over time',
        x: { label: 'Time', kind: 'time' },
        y: { label: 'Deceleration', kind: 'acceleration' },
      },
    },
    plan: dropPlan,
    planning: dropPlanning,
    specimen: dropSpecimen,
    live: dropLive,
    sizing: dropSizing,
  },
})
