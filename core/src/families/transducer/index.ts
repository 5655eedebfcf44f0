import { transducerDoubt } from './doubt'
import { settings } from './settings'

import { defineFamily } from '../../family/contract'
import { type Role } from '../../method/table'
import { reduceBeam } from './beam'
import { followUpTransducer } from './followUps'
import { transducerFacts } from './facts'
import { transducerFigures } from './figures'
import { transducerLive } from './live'
import { proposeTransducer, rowsFromSweep, transducerPlan, transducerPlanning } from './plan'
import { reduceResponse } from './response'
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

const response: Record<string, Role> = {
  frequency: sweep['frequency']!,
  pressure: { label: 'Sound pressure', kind: 'pressure', optional: true },
  level: { label: 'Level, about 1 µPa', kind: 'level', optional: true },
  voltage: { label: 'Voltage', kind: 'voltage', optional: true },
  distance: { label: 'Distance', kind: 'length', optional: true },
}
const ROLES = { sweep, beam, response }
const REDUCERS = { sweep: reduceSweep, beam: reduceBeam, response: reduceResponse }

/** Piezoelectric elements and transducers: impedance sweeps and beam patterns. */
export const transducer = defineFamily({
  id: 'transducer',
  title: 'Transducer',
  purpose:
    'Resonances, coupling and circuit of an impedance sweep; width and side lobes of a beam; response over frequency',
  version: '1.1.0',
  roles: sweep,
  rolesOf: s => ROLES[s.kind ?? 'sweep'],
  settings,
  results: {
    coupling: {
      label: 'Coupling factor',
      kind: 'ratio',
      limited: 'atLeast',
      how: '√(C1/(C0 + C1)) of the circuit, which is √(1 − (fs/fp)²).',
    },
    seriesFrequency: {
      label: 'Series resonance',
      kind: 'frequency',
      how: '1/(2π√(L1·C1)) of the circuit that fits all rows.',
    },
    parallelFrequency: {
      label: 'Parallel resonance',
      kind: 'frequency',
      how: 'Series resonance times √(1 + C1/C0).',
    },
    qualityFactor: {
      label: 'Quality factor',
      kind: 'ratio',
      limited: 'atLeast',
      how: '√(L1/C1)/R1 of the circuit.',
    },
    staticCapacitance: {
      label: 'Static capacitance',
      kind: 'capacitance',
      limited: 'atMost',
      how: 'Median of susceptance over ω below 0.3 of the resonance, taken to frequency zero by the circuit.',
    },
    clampedCapacitance: { label: 'Clamped capacitance', kind: 'capacitance', how: 'C0 of the circuit.' },
    lossTangent: {
      label: 'Loss tangent',
      kind: 'ratio',
      limited: 'atMost',
      how: 'Of C0, by the fit of the circuit.',
    },
    R1: {
      label: 'R1 of the circuit',
      kind: 'resistance',
      how: 'Least squares of the complex admittance over all rows, each counted of its own size.',
    },
    L1: { label: 'L1 of the circuit', kind: 'inductance', how: 'Likewise.' },
    C1: { label: 'C1 of the circuit', kind: 'capacitance', how: 'Likewise.' },
    C0: { label: 'C0 of the circuit', kind: 'capacitance', how: 'Likewise.' },
    residual: {
      label: 'Misfit of the circuit',
      kind: 'ratio',
      how: 'Root mean square of what circuit and rows differ by, of the rows’ own size.',
    },
    maxConductanceAt: {
      label: 'Largest conductance at',
      kind: 'frequency',
      how: 'By the parabola through three rows.',
    },
    maxResistanceAt: { label: 'Largest resistance at', kind: 'frequency', how: 'Likewise.' },
    peakAngle: {
      label: 'Beam points to',
      kind: 'angle',
      how: 'Top of the parabola through the rows within a decibel of the largest.',
    },
    peakLevel: { label: 'Level there', kind: 'level', how: 'Likewise.' },
    peakTransmitResponse: {
      label: 'Largest transmitting response',
      kind: 'level',
      limited: 'atLeast',
      how: 'Top of the parabola through the rows within a decibel of the largest.',
    },
    peakTransmitAt: { label: 'At', kind: 'frequency', how: 'Its frequency.' },
    peakReceiveSensitivity: {
      label: 'Largest receiving sensitivity',
      kind: 'level',
      limited: 'atLeast',
      how: 'Top of the parabola through the rows within a decibel of the largest.',
    },
    peakReceiveAt: { label: 'At', kind: 'frequency', how: 'Its frequency.' },
    bandwidth3dB: {
      label: 'Bandwidth, 3 dB down',
      kind: 'frequency',
      limited: 'atLeast',
      how: 'Between the falls to 3 dB below the top.',
    },
    bandwidth6dB: {
      label: 'Bandwidth, 6 dB down',
      kind: 'frequency',
      limited: 'atLeast',
      how: 'Between the falls to 6 dB below the top.',
    },
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
      how: '10·log₁₀(4/∫b·|sin θ|dθ) over the given angles; of a line 10·log₁₀(2/∫b·cos θ dθ).',
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
  reduce: (table, s, context) => REDUCERS[s.kind](table, s, context),
  addsToUncertainty: true,
  doubt: transducerDoubt,
  propose: proposeTransducer,
  figures: transducerFigures,
  ownOfRecord: ['kind', 'transmit', 'receive', 'response', 'voltage', 'distance'],
  set: {
    results: ['coupling', 'seriesFrequency', 'qualityFactor', 'staticCapacitance', 'beamwidth3dB'],
    alike: 'kind',
  },
  fromRun: rowsFromSweep,
  followUps: followUpTransducer,
  stages: {
    facts: transducerFacts,
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
    live: transducerLive,
  },
})
