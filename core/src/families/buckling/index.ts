import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { followUpBuckling } from './followUps'
import { bucklingFacts } from './facts'
import { bucklingFigures } from './figures'
import { bucklingPlan, bucklingPlanning, proposeBuckling } from './plan'
import { reduceBuckling } from './reduce'
import { bucklingSizing } from './sizing'
import { bucklingSpecimen } from './specimen'

/** Thin shells under force, moment and inner pressure. */
export const buckling = defineFamily({
  id: 'buckling',
  title: 'Buckling',
  purpose: 'What a shell carried of the classical load, where it began to give and what its growth predicted',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    force: { label: 'Force, compression', kind: 'force' },
    moment: { label: 'Moment', kind: 'torque', aliases: ['moment', 'bend'], optional: true },
    pressure: { label: 'Inner pressure', kind: 'pressure', optional: true },
    '*': { label: 'Deflection', kind: 'any', optional: true },
  },
  settings,
  results: {
    peakForce: {
      label: 'Buckling force',
      kind: 'force',
      limited: 'atLeast',
      driver: 'stability',
      atEnd: true,
      how: 'The force at the largest line load, which need not be the largest force.',
    },
    momentAtPeak: { label: 'Moment there', kind: 'torque', how: 'The moment at the largest line load.' },
    pressureAtPeak: { label: 'Inner pressure there', kind: 'pressure', how: 'The pressure at the largest line load.' },
    knockdown: {
      label: 'Knockdown factor',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'stability',
      atEnd: true,
      how: 'Force and the moment’s line load, as a force, over the perfect shell’s at the peak: (P + 2|M|/R)/perfect.',
    },
    designKnockdown: {
      label: 'Lower-bound factor',
      kind: 'ratio',
      how: '1 − 0.901(1 − e^(−√(R/t)/16)): below what almost all tested shells carried.',
    },
    designKnockdownBending: {
      label: 'Lower-bound factor in bending',
      kind: 'ratio',
      how: '1 − 0.731(1 − e^(−√(R/t)/16)).',
    },
    designKnockdownAtPeak: {
      label: 'Lower-bound factor at the peak',
      kind: 'ratio',
      how: 'Of both, by what of the line load at the peak is force and what moment: the two shares add to one.',
    },
    margin: {
      label: 'Margin on the factor',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'stability',
      atEnd: true,
      how: 'Knockdown over the design factor, or over the lower bound at the peak where none is given, less one.',
    },
    southwellForce: {
      label: 'Southwell force',
      kind: 'force',
      limited: 'atLeast',
      driver: 'stability',
      how:
        'Slope of deflection on deflection over line load, on the way up, as an axial force; the median of the ' +
        'channels.',
    },
    southwellR2: {
      label: 'Fit of that line',
      kind: 'ratio',
      how: 'Share of the deflections’ scatter that the line explains.',
    },
    onsetForce: {
      label: 'Onset of bending',
      kind: 'force',
      limited: 'atLeast',
      how: 'The onset line load as an axial force.',
    },
    onsetLineLoad: {
      label: 'Onset line load',
      kind: 'loadPerLength',
      limited: 'atLeast',
      how:
        'The lowest line load above half of the peak at which a deflection grows three times as fast as between a ' +
        'fifth and a half.',
    },
    maxLineLoad: {
      label: 'Largest line load',
      kind: 'loadPerLength',
      limited: 'atLeast',
      driver: 'stability',
      atEnd: true,
      how: 'The largest P/(2πR) + |M|/(πR²) − pR/2: on the side that the moment presses.',
    },
    classicalForce: {
      label: 'Classical force',
      kind: 'force',
      how: '2πEt²/√(3(1 − ν²)), or 2πR times the line load of the perfect wall.',
    },
    perfectForce: {
      label: 'Perfect force',
      kind: 'force',
      how: 'Classical force and what the inner pressure carries, πR²p.',
    },
    waveNumber: {
      label: 'Waves around',
      kind: 'ratio',
      isCount: true,
      how: 'The largest wave around the ring of gauges at the peak, by least squares.',
    },
  },
  reduce: reduceBuckling,
  propose: proposeBuckling,
  figures: bucklingFigures,
  checked: { load: 'force' },
  ownOfRecord: ['zeroStart', 'ring'],
  links: { southwellRange: 'window' },
  set: { results: ['peakForce', 'knockdown', 'southwellForce', 'onsetForce'] },
  followUps: followUpBuckling,
  stages: {
    facts: bucklingFacts,
    curves: {
      growth: {
        title: 'Force over deflection',
        x: { label: 'Deflection', kind: 'length' },
        y: { label: 'Force', kind: 'force' },
      },
    },
    plan: bucklingPlan,
    planning: bucklingPlanning,
    specimen: bucklingSpecimen,
    sizing: bucklingSizing,
  },
})
