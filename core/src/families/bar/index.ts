import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { followUpBar } from './followUps'
import { barFacts } from './facts'
import { barFigures } from './figures'
import { barLive } from './live'
import { barPlan, barPlanning, proposeBar } from './plan'
import { reduceBar } from './reduce'
import { barSpecimenOfRig } from './specimen'

/** Specimens between two elastic bars at high rates. */
export const bar = defineFamily({
  id: 'bar',
  title: 'High-rate bar',
  purpose: 'Stress, strain and rate between two elastic bars, by one wave and by three',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    incident: { label: 'Incident bar', kind: 'strain', aliases: ['inc', 'input', 'ein'] },
    transmitted: { label: 'Transmitted bar', kind: 'strain', aliases: ['trans', 'output', 'aus'] },
  },
  timeBase: 'even',
  settings,
  results: {
    peakStress: {
      label: 'Peak stress',
      kind: 'pressure',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'The largest stress: by one wave that of the transmitted force, by three the mean of both faces.',
    },
    strainAtPeak: {
      label: 'Strain at the peak',
      kind: 'strain',
      limited: 'atLeast',
      driver: 'strength',
      atEnd: true,
      how: 'Integral of the strain rate up to there.',
    },
    meanRate: {
      label: 'Mean strain rate',
      kind: 'sweepRate',
      how: 'Mean from a fifth of the peak stress to the peak.',
    },
    equilibrium: {
      label: 'Out of equilibrium',
      kind: 'ratio',
      limited: 'atMost',
      how:
        'Mean size of the difference of the faces’ forces over the mean force, from a fifth of the peak stress ' +
        'to the peak.',
    },
    waveSpeed: { label: 'Wave speed of the bars', kind: 'velocity', how: '√(E/ρ).' },
  },
  inPieces: { what: 'shot', usual: pieces => pieces.length - 1 },
  reduce: reduceBar,
  propose: proposeBar,
  figures: barFigures,
  checked: {
    load: 'incident',
    pulses: { incidentWindow: 'incident', reflectedWindow: 'incident', transmittedWindow: 'transmitted' },
  },
  ownOfRecord: ['piece', 'incidentWindow', 'reflectedWindow', 'transmittedWindow', 'zeroStart'],
  links: {
    piece: 'window',
    incidentWindow: 'window',
    reflectedWindow: 'window',
    transmittedWindow: 'window',
    dispersion: 'filter',
    barPoisson: 'filter',
  },
  set: {
    results: ['peakStress', 'strainAtPeak', 'meanRate', 'equilibrium'],
    measure: { key: 'strikerVelocity', label: 'Velocity of the striker', kind: 'velocity' },
  },
  followUps: followUpBar,
  stages: {
    facts: barFacts,
    curves: {
      stressStrain: {
        title: 'Stress over strain',
        x: { label: 'Strain', kind: 'strain' },
        y: { label: 'Stress', kind: 'pressure' },
      },
    },
    plan: barPlan,
    planning: barPlanning,
    specimen: barSpecimenOfRig,
    live: barLive,
  },
})
