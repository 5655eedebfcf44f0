import { handover } from './handover'
import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { type Role } from '../../method/table'
import { followUpDescent } from './followUps'
import { descentFacts } from './facts'
import { descentFigures } from './figures'
import { descentForetells } from './foretells'
import { descentLive } from './live'
import { descentPlan, descentPlanning, HEIGHT_FROM, proposeDescent } from './plan'
import { reduceDescent } from './reduce'
import { descentSizing } from './sizing'
import { descentSpecimen } from './specimen'

const t: Role = { label: 'Time', kind: 'time' }
const altitude: Role = { label: 'Altitude', kind: 'length', aliases: ['alt', 'height', 'höhe', 'hohe'] }
const riserForce: Role = {
  label: 'Riser force',
  kind: 'force',
  optional: true,
  aliases: ['riser', 'line', 'fangleine'],
}
const place = (label: string, aliases: string[]): Role => ({ label, kind: 'length', optional: true, aliases })
const east = place('East of the exit', ['east', 'easting', 'x'])
const north = place('North of the exit', ['north', 'northing', 'y'])
const ROLES: Record<(typeof HEIGHT_FROM)[number], Record<string, Role>> = {
  altitude: { t, altitude, riserForce, east, north },
  'air pressure': { t, airPressure: { label: 'Air pressure', kind: 'pressure' }, riserForce, east, north },
  'video frames': { frame: { label: 'Picture number', kind: 'ratio' }, altitude },
}

/** Descent under a canopy: rate, drag area, filling, opening load and swing. */
export const descent = defineFamily({
  id: 'descent',
  title: 'Descent',
  purpose: 'Rate of descent, drag area, filling, opening load and swing of a canopy',
  version: '1.1.0',
  roles: ROLES.altitude,
  rolesOf: s => ROLES[s.heightFrom ?? 'altitude'],
  settings,
  results: {
    descentRate: {
      label: 'Rate of descent',
      kind: 'velocity',
      limited: 'atMost',
      driver: 'rate',
      how: 'Less the slope of altitude on time in the steady window, least squares.',
    },
    seaLevelRate: {
      label: 'Rate of descent at sea level',
      kind: 'velocity',
      limited: 'atMost',
      driver: 'rate',
      how: 'Rate times the root of the density there over 1.225 kg/m³.',
    },
    peakOpeningForce: {
      label: 'Peak opening force',
      kind: 'force',
      limited: 'atMost',
      driver: 'rate',
      how: 'The largest riser force from the stretch of the lines on.',
    },
    dragArea: {
      label: 'Drag area',
      kind: 'area',
      limited: 'atLeast',
      driver: 'rate',
      how: 'Weight over dynamic pressure: steady descent carries what it weighs.',
    },
    dragCoefficient: { label: 'Drag coefficient', kind: 'ratio', how: 'Drag area over reference area.' },
    fillTime: {
      label: 'Fill time',
      kind: 'time',
      limited: 'atMost',
      how: 'From the stretch of the lines until the canopy is full.',
    },
    fillConstant: {
      label: 'Fill constant',
      kind: 'ratio',
      how: 'Speed at stretch times fill time over the diameter of the reference area.',
    },
    stretchSpeed: {
      label: 'Speed at stretch',
      kind: 'velocity',
      how: 'As given, or the slope of the altitude over the half second before.',
    },
    openingFactor: {
      label: 'Opening factor',
      kind: 'ratio',
      limited: 'atMost',
      driver: 'rate',
      how: 'Peak opening force over the drag at the stretch with the steady drag area.',
    },
    massRatio: {
      label: 'Mass ratio',
      kind: 'ratio',
      how: 'Air in the canopy over the mass that hangs on it: density × drag area^1.5 over mass.',
    },
    density: {
      label: 'Density of the air',
      kind: 'density',
      how: 'Standard atmosphere above the given ground, at the mean height of the steady window.',
    },
    dynamicPressure: { label: 'Dynamic pressure', kind: 'pressure', how: 'Half the density times the rate squared.' },
    landingEast: { label: 'Landed east', kind: 'length', how: 'As entered, from below the start.' },
    landingNorth: { label: 'Landed north', kind: 'length', how: 'As entered, from below the start.' },
    inflatedShare: {
      label: 'Inflated',
      kind: 'ratio',
      limited: 'atLeast',
      how: 'As observed: all of the canopy, a share of it, or none.',
    },
    inflationTime: {
      label: 'Inflated after',
      kind: 'time',
      limited: 'atMost',
      how: 'As observed, from the stretch of the lines, or from the record’s first sample where nobody said it.',
    },
    swingAngle: {
      label: 'Swing',
      kind: 'angle',
      limited: 'atMost',
      how:
        'Of a pendulum whose tension changes as the riser force does in the steady window: between its 2.5 and ' +
        '97.5 % values 3 m g (1 − cos θ).',
    },
    swingPeriod: {
      label: 'Period of the swing',
      kind: 'time',
      how: 'Twice that of the riser force, between its crossings of the mean in the steady window.',
    },
  },
  reduce: reduceDescent,
  propose: proposeDescent,
  figures: descentFigures,
  checked: { load: 'altitude', steady: ['steadyWindow'] },
  ownOfRecord: [
    'steadyWindow',
    'stretchTime',
    'fullTime',
    'stretchSpeed',
    'landing',
    'phases',
    'inflation',
    'inflatedShare',
    'inflatedAt',
  ],
  links: { steadyWindow: 'window', stretchTime: 'window', fullTime: 'window' },
  set: { results: ['descentRate', 'dragArea', 'peakOpeningForce', 'swingAngle'] },
  followUps: followUpDescent,
  stages: {
    facts: descentFacts,
    curves: {
      landingArea: {
        title: 'Landing area',
        x: { label: 'East', kind: 'length' },
        y: { label: 'North', kind: 'length' },
      },
      altitude: {
        title: 'Altitude over time',
        x: { label: 'Time', kind: 'time' },
        y: { label: 'Altitude', kind: 'length' },
      },
    },
    plan: descentPlan,
    planning: descentPlanning,
    foretells: descentForetells,
    specimen: descentSpecimen,
    live: descentLive,
    handover,
    sizing: descentSizing,
  },
})
