import { sizeFact, type KnownFact } from '../../register/knownFacts'

export const spinFacts: readonly KnownFact[] = [
  sizeFact('diameter', 'Fan diameter', 'length', 'disk, tip speed, stand-off and sizing', {
    names: ['diameter', 'rotor diameter', 'propeller diameter'],
    loading: { setpoints: 'diameter' },
  }),
  sizeFact('speed', 'Top speed', 'rotation', 'stored energy, tip speed and sizing', {
    group: 'Other',
    names: ['full speed', 'maximum speed'],
    loading: { setpoints: 'fullSpeed' },
  }),
  sizeFact('inertia', 'Inertia of what turns', 'inertia', 'stored energy', {
    group: 'Other',
    names: ['rotor inertia', 'polar inertia'],
    loading: { setpoints: 'rotorInertia' },
  }),
  sizeFact('diskArea', 'Disk area', 'area', 'figure of merit', { plan: ['diskArea'], settings: ['diskArea'] }),
  sizeFact('fanMass', 'Fan mass', 'mass', 'the mass that a change costs', { group: 'Other', names: ['rotor mass'] }),
  sizeFact('blades', 'Blades', 'ratio', 'comparing revisions', { names: ['number of blades'] }),
  sizeFact('powerLimit', 'Electrical power not above', 'power', 'what the motor may be asked', {
    group: 'Other',
    names: ['power limit', 'rated power'],
    plan: ['powerLimit'],
  }),
  sizeFact('temperatureLimit', 'Winding not above', 'temperature', 'what the motor may be asked', {
    group: 'Other',
    names: ['winding limit', 'temperature limit'],
    plan: ['temperatureLimit'],
  }),
]
