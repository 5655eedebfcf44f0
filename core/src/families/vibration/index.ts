import { vibrationDoubt } from './doubt'
import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { followUpVibration } from './followUps'
import { vibrationFacts } from './facts'
import { vibrationFigures } from './figures'
import { vibrationLive } from './live'
import { proposeVibration, vibrationPlan, vibrationPlanning } from './plan'
import { reduceVibration } from './reduce'
import { vibrationSizing } from './sizing'
import { vibrationSpecimen } from './specimen'

/** Surveys and random levels on a shaker. */
export const vibration = defineFamily({
  id: 'vibration',
  title: 'Vibration',
  purpose: 'Levels, modes with their damping against the required frequency, and whether they are as before',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    drive: { label: 'Drive', kind: 'acceleration', aliases: ['drive', 'base', 'table', 'tisch', 'input'] },
    '*': { label: 'Response', kind: 'any', optional: true },
  },
  timeBase: 'even',
  settings,
  results: {
    firstFrequency: {
      label: 'First mode',
      kind: 'frequency',
      limited: 'atLeast',
      driver: 'frequency',
      how:
        'Of the first response: the first peak of its frequency response in the band, by the parabola through ' +
        'three bins.',
    },
    firstDamping: {
      label: 'Damping of the first mode',
      kind: 'ratio',
      limited: 'atLeast',
      how: 'Half-power width over twice the frequency.',
    },
    firstDampingCorrected: {
      label: 'First damping, resolution taken off',
      kind: 'ratio',
      limited: 'atLeast',
      how: 'The damping whose resonance, seen through segments of this length, has the half-power width that was read.',
    },
    firstAmplitude: {
      label: 'Amplification of the first mode',
      kind: 'ratio',
      limited: 'atMost',
      how: 'Height of that peak: response over drive.',
    },
    frequencyMargin: {
      label: 'Margin on the frequency',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'frequency',
      how: 'First mode over the least frequency that is asked, less one.',
    },
    largestShift: {
      label: 'Largest shift of a mode',
      kind: 'ratio',
      limited: 'atMost',
      how: 'Of the modes before and the nearest now: the largest change in frequency.',
    },
    rmsDrive: { label: 'Drive, rms', kind: 'acceleration', how: 'Root of the drive’s density summed over the band.' },
    firstCoherence: {
      label: 'Coherence at the first mode',
      kind: 'ratio',
      how: 'Share of the response there that the drive explains.',
    },
    outsideTolerance: {
      label: 'Level outside its tolerance',
      kind: 'ratio',
      limited: 'atMost',
      how: 'Share of the bins in the band whose drive is off the specification by more than the tolerance.',
    },
  },
  reduce: reduceVibration,
  addsToUncertainty: true,
  isNoise: true,
  doubt: vibrationDoubt,
  propose: proposeVibration,
  figures: vibrationFigures,
  ownOfRecord: [],
  links: { nperseg: 'filter', band: 'window', prominence: 'window' },
  set: { results: ['firstFrequency', 'firstDamping', 'firstAmplitude', 'largestShift'], again: 'before' },
  followUps: followUpVibration,
  stages: {
    facts: vibrationFacts,
    curves: {
      response: {
        title: 'Frequency response',
        x: { label: 'Frequency', kind: 'frequency' },
        y: { label: 'Response over drive', kind: 'ratio' },
      },
    },
    plan: vibrationPlan,
    planning: vibrationPlanning,
    specimen: vibrationSpecimen,
    live: vibrationLive,
    sizing: vibrationSizing,
  },
})
