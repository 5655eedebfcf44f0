import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { followUpBurst } from './followUps'
import { burstFacts } from './facts'
import { burstDoubt } from './doubt'
import { burstFigures } from './figures'
import { burstPlan, burstPlanning, proposeBurst } from './plan'
import { reduceBurst } from './reduce'
import { burstSizing } from './sizing'
import { burstSpecimen } from './specimen'

/** Pressure in steps to the burst: factor, line loads, and leaks in the holds with the temperature taken out. */
export const burst = defineFamily({
  id: 'burst',
  title: 'Burst',
  purpose: 'Pressure in steps to the burst: factor, line loads, leaks in the holds',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    pressure: { label: 'Pressure', kind: 'pressure' },
    temperature: { label: 'Temperature', kind: 'temperature', optional: true },
  },
  settings,
  results: {
    burstPressure: {
      label: 'Burst pressure',
      kind: 'pressure',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'The largest reading; at least that where the pressure never halved within a second.',
    },
    burstFactor: {
      label: 'Burst factor',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'Burst pressure over rated pressure.',
    },
    margin: {
      label: 'Margin',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'Burst factor over the factor that is asked, less one.',
    },
    hoopLineLoad: {
      label: 'Hoop line load',
      kind: 'loadPerLength',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'Burst pressure times radius: what a seam along the vessel carries.',
    },
    axialLineLoad: {
      label: 'Axial line load',
      kind: 'loadPerLength',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'Half of the hoop line load: what a seam around the vessel carries.',
    },
    largestLeak: {
      label: 'Largest leak',
      kind: 'leakRate',
      limited: 'atMost',
      how:
        'Of the hold that loses most: less the slope of absolute pressure over temperature, as a share of what ' +
        'it began with.',
    },
    gaugeUtilisation: { label: 'Gauge used', kind: 'ratio', how: 'Largest reading over the gauge’s full scale.' },
  },
  reduce: reduceBurst,
  doubt: burstDoubt,
  propose: proposeBurst,
  figures: burstFigures,
  checked: { load: 'pressure', steady: ['holds'] },
  ownOfRecord: ['zeroStart', 'holds', 'gaugeFullScale'],
  links: { holds: 'window', ambientPressure: 'result' },
  set: { results: ['burstPressure', 'burstFactor', 'hoopLineLoad'] },
  followUps: followUpBurst,
  stages: {
    facts: burstFacts,
    curves: {
      pressureTime: {
        title: 'Pressure over time',
        x: { label: 'Time', kind: 'time' },
        y: { label: 'Pressure', kind: 'pressure' },
      },
    },
    plan: burstPlan,
    planning: burstPlanning,
    specimen: burstSpecimen,
    sizing: burstSizing,
  },
})
