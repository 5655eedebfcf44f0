import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { type Role } from '../../method/table'
import { reduceBeam } from './beam'
import { followUpTransducer } from './followUps'
import { transducerFigures } from './figures'
import { proposeTransducer, rowsFromSweep, transducerPlan, transducerPlanning } from './plan'
import { transducerSpecimen } from './specimen'
import { reduceSweep } from './sweep'

const sweep: Record<string, Role> = {
  frequency: { label: 'Frequency', kind: 'frequency' },
  magnitude: { label: 'Impedance', kind: 'resistance', aliases: ['mag', 'imped', '|z|', 'z'], optional: true },
  phase: { label: 'Phase', kind: 'angle', aliases: ['phas'], optional: true },
  resistance: { label: 'Resistance', kind: 'resistance', aliases: ['resis', 'r'], optional: true },
  reactance: { label: 'Reactance', kind: 'resistance', aliases: ['react', 'x'], optional: true },
}
const beam: Record<string, Role> = {
  angle: { label: 'Angle', kind: 'angle', aliases: ['angle', 'winkel', 'bearing'] },
  level: { label: 'Level', kind: 'level' },
}

/** Piezoelectric elements and transducers: impedance sweeps and beam patterns. */
export const transducer = defineFamily({
  id: 'transducer',
  title: 'Transducer',
  purpose: 'Resonances, coupling and equivalent circuit of an impedance sweep; width and side lobes of a beam',
  version: '1.0.0',
  roles: sweep,
  rolesOf: s => (s.kind === 'beam' ? beam : sweep),
  settings,
  results: {
    coupling: { label: 'Coupling factor', kind: 'ratio', limited: 'atLeast', how: '√(1 − (fs/fp)²).' },
    seriesFrequency: {
      label: 'Series resonance',
      kind: 'frequency',
      how: 'Where the conductance is largest, by the parabola through three rows.',
    },
    parallelFrequency: {
      label: 'Parallel resonance',
      kind: 'frequency',
      how: 'Where the resistance is largest, likewise.',
    },
    qualityFactor: {
      label: 'Quality factor',
      kind: 'ratio',
      limited: 'atLeast',
      how: 'Series resonance over the width of the conductance at half its height.',
    },
    staticCapacitance: {
      label: 'Static capacitance',
      kind: 'capacitance',
      limited: 'atMost',
      how: 'Median of susceptance over ω well below the resonance.',
    },
    lossTangent: {
      label: 'Loss tangent',
      kind: 'ratio',
      limited: 'atMost',
      how: 'Median of conductance over susceptance there.',
    },
    R1: {
      label: 'R1 of the circuit',
      kind: 'resistance',
      how: 'Least squares of the complex admittance over all rows.',
    },
    L1: { label: 'L1 of the circuit', kind: 'inductance', how: 'Likewise.' },
    C1: { label: 'C1 of the circuit', kind: 'capacitance', how: 'Likewise.' },
    C0: { label: 'C0 of the circuit', kind: 'capacitance', how: 'Likewise.' },
    beamwidth3dB: {
      label: 'Beam width',
      kind: 'angle',
      limited: 'atMost',
      how: 'Between the places three decibels below the peak.',
    },
    maxSidelobe: {
      label: 'Largest side lobe',
      kind: 'level',
      limited: 'atMost',
      how: 'Largest level beyond the first nulls, against the peak.',
    },
    directivityIndex: {
      label: 'Directivity index',
      kind: 'level',
      limited: 'atLeast',
      how: '10·log₁₀(4/∫b·|sin θ|dθ) over the given angles.',
    },
    transmitResponse: {
      label: 'Transmitting response',
      kind: 'level',
      limited: 'atLeast',
      how: 'Pressure at one metre a volt, about one micropascal.',
    },
    receiveSensitivity: {
      label: 'Receiving sensitivity',
      kind: 'level',
      limited: 'atLeast',
      how: 'Volts a micropascal, about one volt.',
    },
  },
  reduce: (table, s) => (s.kind === 'beam' ? reduceBeam(table, s) : reduceSweep(table, s)),
  addsToUncertainty: true,
  propose: proposeTransducer,
  figures: transducerFigures,
  ownOfRecord: ['kind', 'transmit', 'receive'],
  set: {
    results: ['coupling', 'seriesFrequency', 'qualityFactor', 'staticCapacitance', 'beamwidth3dB'],
    alike: 'kind',
  },
  fromRun: rowsFromSweep,
  followUps: followUpTransducer,
  stages: {
    curves: {
      impedance: {
        title: 'Impedance',
        x: { label: 'Frequency', kind: 'frequency' },
        y: { label: 'Impedance', kind: 'resistance' },
      },
    },
    plan: transducerPlan,
    planning: transducerPlanning,
    specimen: transducerSpecimen,
  },
})
