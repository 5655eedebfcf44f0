import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { followUpDrop } from './followUps'
import { dropFigures } from './figures'
import { dropPlan, dropPlanning, proposeDrop } from './plan'
import { reduceDrop } from './reduce'
import { dropSizing } from './sizing'
import { dropSpecimen } from './specimen'

/** Drops and impacts: the pulse behind its channel class, its velocity change, plateau, stroke and rebound. */
export const drop = defineFamily({
  id: 'drop',
  title: 'Drop',
  purpose: 'The pulse of an impact: peak, plateau, velocity change, stroke, rebound',
  version: '1.0.0',
  roles: { t: { label: 'Time', kind: 'time' }, acceleration: { label: 'Acceleration', kind: 'acceleration' } },
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
      how: 'Mean over time between the pulse’s first and last crossing of half its peak.',
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
    pulseStart: { label: 'Pulse begins', kind: 'time', how: 'Crossing of a twentieth of the peak before it.' },
    pulseEnd: { label: 'Pulse ends', kind: 'time', how: 'Crossing of a twentieth of the peak after it.' },
  },
  reduce: reduceDrop,
  propose: proposeDrop,
  figures: dropFigures,
  ownOfRecord: ['zeroStart', 'impactVelocity', 'dropHeight'],
  links: { cfc: 'filter', trigger: 'window' },
  set: { results: ['peak', 'plateau', 'deltaV', 'rebound', 'displacement'] },
  followUps: followUpDrop,
  stages: {
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
    sizing: dropSizing,
  },
})
