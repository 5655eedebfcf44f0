import * as z from 'zod'
import { defineFamily } from '../../method/define'
import { plain, quantity, timeWindow } from '../../method/settings'
import { carryOnBar } from './carryOn'
import { barFigures } from './figures'
import { barPlan, barPlanning, proposeBar } from './plan'
import { reduceBar } from './reduce'
import { barSpecimenOfRig } from './specimen'

const size = (title: string) => quantity('length', { title, positive: true })
const area = (title: string) => quantity('area', { title, positive: true })

const settings = z.object({
  barModulus: quantity('pressure', { title: 'Bar modulus', positive: true }),
  barDensity: quantity('density', { title: 'Bar density', positive: true }),
  barArea: area('Area of the bars'),
  specimenArea: area('Area of the specimen, or of all ligaments'),
  specimenLength: size('Length of the specimen'),
  gaugeToSpecimenIncident: size('Incident gauge to specimen'),
  gaugeToSpecimenTransmitted: size('Specimen to transmitted gauge'),
  incidentWindow: timeWindow('Incident wave'),
  reflectedWindow: timeWindow('Reflected wave'),
  transmittedWindow: timeWindow('Transmitted wave'),
  specimen: z.enum(['compression', 'frame-tension']).default('compression').meta({ title: 'Specimen' }),
  school: z.enum(['one-wave', 'three-wave']).default('one-wave').meta({ title: 'Results by' }),
  dispersion: z.boolean().default(false).meta({ title: 'Correct the waves’ dispersion' }),
  barPoisson: plain({ title: 'Poisson’s ratio of the bars', positive: true, max: 0.49 }).default(0.29),
  zeroStart: timeWindow('Zero at the start').optional(),
})

export type BarSettings = z.output<typeof settings>

/** Specimens between two elastic bars at high rates. */
export const bar = defineFamily({
  id: 'bar',
  title: 'High-rate bar',
  purpose: 'Stress, strain and rate between two elastic bars, by one wave and by three',
  version: '1.0.0',
  roles: {
    t: { label: 'Time', kind: 'time' },
    incident: { label: 'Incident bar', kind: 'strain' },
    transmitted: { label: 'Transmitted bar', kind: 'strain' },
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
      how: 'Mean size of the difference of the faces’ forces over the mean force, from a fifth of the peak stress to the peak.',
    },
    waveSpeed: { label: 'Wave speed of the bars', kind: 'velocity', how: '√(E/ρ).' },
  },
  reduce: reduceBar,
  propose: proposeBar,
  figures: barFigures,
  ownOfRecord: ['incidentWindow', 'reflectedWindow', 'transmittedWindow', 'zeroStart'],
  links: {
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
  carryOn: carryOnBar,
  stages: {
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
  },
})
