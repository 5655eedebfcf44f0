import { handover } from './handover'
import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { thermalFacts } from './facts'
import { thermalFigures } from './figures'
import { thermalLive } from './live'
import { proposeThermal, thermalPlan, thermalPlanning } from './plan'
import { reduceThermal } from './reduce'
import { thermalSizing } from './sizing'
import { thermalSpecimen } from './specimen'

/** Steady heat: where a temperature settles, and at what power it would settle at its limit. */
export const thermal = defineFamily({
  id: 'thermal',
  title: 'Thermal',
  purpose: 'Steady temperature ahead of time, time constant, allowed power and its derating with the ambient',
  version: '1.1.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    temperature: { label: 'Temperature', kind: 'temperature' },
    power: { label: 'Power', kind: 'power', optional: true },
  },
  settings,
  results: {
    steadyTemperature: {
      label: 'Steady temperature',
      kind: 'temperature',
      limited: 'atMost',
      driver: 'heat',
      how: 'Where the exponential approach that fits the window ends.',
    },
    allowedPower: {
      label: 'Allowed power',
      kind: 'power',
      limited: 'atLeast',
      driver: 'heat',
      how: 'Mean power times (limit − ambient) over (steady − ambient): the rise goes with the power.',
    },
    margin: {
      label: 'Margin on power',
      kind: 'ratio',
      limited: 'atLeast',
      driver: 'heat',
      how: 'Allowed power over power, less one.',
    },
    timeConstant: {
      label: 'Time constant',
      kind: 'time',
      limited: 'atLeast',
      how: 'Of the approach: after it, 63 % of the rise has happened.',
    },
    startTemperature: {
      label: 'Temperature at the start',
      kind: 'temperature',
      how: 'Of the approach, at the window’s first sample.',
    },
    power: { label: 'Power', kind: 'power', how: 'Mean over the window.' },
  },
  reduce: reduceThermal,
  addsToUncertainty: true,
  propose: proposeThermal,
  figures: thermalFigures,
  ownOfRecord: ['window', 'ambient'],
  set: { results: ['steadyTemperature', 'allowedPower', 'timeConstant', 'margin'] },
  stages: {
    facts: thermalFacts,
    curves: {
      approach: {
        title: 'Temperature over time',
        x: { label: 'Time', kind: 'time' },
        y: { label: 'Temperature', kind: 'temperature' },
      },
    },
    plan: thermalPlan,
    planning: thermalPlanning,
    specimen: thermalSpecimen,
    live: thermalLive,
    handover,
    sizing: thermalSizing,
  },
})
