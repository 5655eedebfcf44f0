import { kN, mm, percent, s, type PlannedChannel, type SensorName } from './scenario'

/* Tests that are left at each stage, so that every screen has something true to show. Made up. */

const m = (value: number) => ({ value, unit: 'm' })
const aluminium = { modulus: { value: 70, unit: 'GPa' }, strength: { value: 250, unit: 'MPa' }, shearStrength: { value: 150, unit: 'MPa' }, density: 2700 }
const laminate = { modulus: { value: 58, unit: 'GPa' }, strength: { value: 420, unit: 'MPa' }, shearStrength: { value: 60, unit: 'MPa' }, density: 1550 }
const rungs = (targets: readonly number[], unit = 'kN', hold = 20) => targets.map((value, i) => ({ target: { value, unit }, hold: s(i === targets.length - 1 ? 40 : hold) }))
const load = (sensor: SensorName): PlannedChannel => ({ role: 'load', label: 'Load', kind: 'force', type: 'load', place: 'Load train', checkValue: { value: 490.3, unit: 'N' }, sensor })
const tip = (sensor: SensorName, label: string): PlannedChannel => ({ role: 'deflection', label, kind: 'length', type: 'displacement', place: label, checkValue: mm(50), sensor })

/** Further static articles, each with one revision, its limits and its test. */
export const staticArticles = [
  {
    stage: 'run', name: 'Cargo floor panel', note: 'Sandwich panel under the supplies, held along two edges.', features: ['sandwich', 'bonded inserts'],
    properties: { section: 'solid', length: m(1.2), width: m(0.8), rootHeight: mm(24), tipHeight: mm(24), modulus: { value: 12, unit: 'GPa' }, strength: { value: 60, unit: 'MPa' }, shearStrength: { value: 20, unit: 'MPa' }, density: 420 }, mass: 9.7,
    limits: [{ name: 'Floor deflection', quantity: 'deflectionAtDesign', comparator: 'atMost', level: 'service', entered: mm(10), source: 'Boxes stay on their rollers' }],
    test: {
      title: 'Bladder to 1.5 times the cargo', fixture: 'Two edge rails, one free to slide', method: 'Water bladder', cost: 2900, inDays: 4,
      plan: {
        loading: { kind: 'bladder', length: m(1.2), width: m(0.8), contactEfficiency: percent(92), filmLoss: percent(1.5), medium: 'water', thickness: mm(60), rated: { value: 15, unit: 'kPa' } },
        designLoad: kN(4), deflectionAt: m(0.6), support: 'both ends', minHold: s(12), holdTolerance: { value: 40, unit: 'N' }, predictionBand: percent(10),
        rungs: rungs([0, 1, 2, 3, 4, 0, 5, 6, 0]).map((r, i) => (i === 4 ? { ...r, decision: true } : r)), ramp: s(15), rate: { value: 10, unit: 'Hz' }, capacities: { fixture: kN(10) },
        watch: [{ kind: 'limit', role: 'deflection', value: mm(11), action: 'hold' }, { kind: 'line', role: 'deflection', value: percent(12), action: 'warn' }, { kind: 'failure', role: 'load', value: percent(50), action: 'abort' }],
        restraint: { axialStiffness: { value: 28, unit: 'MN' }, length: m(1.2), attachmentCapacity: kN(9) },
        hazards: { spring: { controls: ['screen', 'distance'] }, pressure: { controls: ['water', 'relief'] } }, channels: [load('cell'), tip('wire', 'Mid-span')],
      },
    },
  },
  {
    stage: 'reduce', name: 'Wind deflector arm', note: 'Tapered box that turns the wind off the cabin door.', features: ['carbon laminate', 'tapered box'],
    properties: { section: 'box', length: m(1.6), width: mm(160), rootHeight: mm(90), tipHeight: mm(45), capThickness: mm(2), webThickness: mm(1.5), ...laminate }, mass: 1.74,
    limits: [{ name: 'Tip in a gust', quantity: 'deflectionAtDesign', comparator: 'atMost', level: 'service', entered: mm(24), source: 'Door still opens' }, { name: 'Ultimate gust', quantity: 'maxLoad', comparator: 'atLeast', level: 'ultimate', entered: kN(1.6), factor: 1.5, source: 'Gust of 34 m/s' }],
    test: {
      title: 'Four stations to ultimate gust', fixture: 'Root plate on the strong wall', method: 'Four cylinders', cost: 4600, inDays: -6,
      plan: {
        loading: { kind: 'stations', stations: [{ y: m(0), load: { value: 1500, unit: 'N/m' } }, { y: m(1.6), load: { value: 500, unit: 'N/m' } }], positions: [m(0.2), m(0.6), m(1), m(1.4)], cylinderArea: { value: 20, unit: 'cm²' }, by: 'cylinders', stationCapacity: kN(2), supply: { value: 6, unit: 'bar' } },
        designLoad: kN(1.6), deflectionAt: m(1.6), support: 'root', minHold: s(12), holdTolerance: { value: 16, unit: 'N' }, predictionBand: percent(10),
        rungs: rungs([0, 0.4, 0.8, 1.2, 1.6, 0, 2, 2.4, 0]), ramp: s(12), rate: { value: 4, unit: 'Hz' }, capacities: { actuator: kN(6), fixture: kN(8) },
        movement: { line: 'anchored', linkLength: m(0.8), anchorOffset: m(0), allowed: percent(8) },
        hazards: { spring: { controls: ['tether', 'screen'] }, hydraulic: { controls: ['eyes', 'depressurise'] } }, channels: [load('cellSmall'), tip('wire', 'Tip')],
      },
      file: 'deflector-stations.csv', seed: 20264, end: 'ladder done',
    },
  },
  {
    stage: 'judge', name: 'Service platform beam', note: 'Tube that the crew walks on, on two brackets.', features: ['welded seam'],
    properties: { section: 'tube', length: m(3), rootDiameter: mm(90), tipDiameter: mm(90), wallThickness: mm(4), ...aluminium }, mass: 8.8,
    limits: [{ name: 'Sag under the crew', quantity: 'deflectionAtDesign', comparator: 'atMost', level: 'service', entered: mm(15), source: 'A two-hundredth of the span' }, { name: 'Set', quantity: 'permanentSet', comparator: 'atMost', level: 'limit', entered: mm(0.5), source: 'Walkway stays level' }],
    test: {
      title: 'Bags to 1.5 times the crew', fixture: 'Two brackets as on the mast', method: 'Sand bags of 10 kg', cost: 1800, inDays: -2,
      plan: {
        loading: { kind: 'bags', stations: [{ y: m(0), load: { value: 800, unit: 'N/m' } }, { y: m(3), load: { value: 800, unit: 'N/m' } }], bagMass: { value: 10, unit: 'kg' }, rows: 12, first: 'tip', laying: 'in layers', tolerance: percent(5) },
        designLoad: kN(2.4), deflectionAt: m(1.5), support: 'both ends', minHold: s(12), holdTolerance: { value: 25, unit: 'N' }, predictionBand: percent(8),
        rungs: rungs([0, 0.6, 1.2, 1.8, 2.4, 0, 3, 3.6, 0]).map((r, i) => (i === 5 ? { ...r, support: 'in' } : i === 6 ? { ...r, support: 'out', decision: true } : r)), ramp: s(15), rate: { value: 4, unit: 'Hz' }, capacities: { fixture: kN(6) },
        hazards: { spring: { controls: ['distance'] }, weights: { controls: ['props', 'feet'] } }, channels: [load('cellSmall'), tip('wire', 'Mid-span')],
      },
      file: 'platform-bags.csv', targets: 'platform-targets.csv', seed: 20265, end: 'ladder done',
    },
  },
] as const

const bar = (value: number) => ({ value, unit: 'kPa' })

/** Plans of articles whose reduction is still to come; `ready` says how far their checklist is. */
export const furtherPlans = [
  {
    article: 'Ballast bag', revision: 'B', title: 'Steps to burst, bag 2 of press 2', fixture: 'Cradle in the burst pit', method: 'Water, hand pump', cost: 2400, inDays: 6, ready: 'half',
    plan: {
      loading: { kind: 'vessel', medium: 'water', volume: { value: 180, unit: 'L' }, radius: mm(210), ratedPressure: bar(25), pump: bar(400) },
      rungs: [{ target: bar(0), hold: s(30) }, { target: bar(25), hold: s(120), cycles: 3 }, { target: bar(50), hold: s(60) }, { target: bar(75), hold: s(60), decision: true }, { target: bar(100), hold: s(60), decision: true }, { target: bar(130), hold: s(10), decision: true }, { target: bar(0), hold: s(30) }],
      ramp: { value: 5, unit: 'kPa/s' }, rate: { value: 20, unit: 'Hz' }, hazards: { pressure: { controls: ['water', 'screen', 'depressurise'], note: 'Pit lid shut above 50 kPa' } }, signOff: ['test-lead', 'safety'],
      cameras: [{ name: 'Fast camera 1', sensorWidth: mm(12.8), sensorHeight: mm(8), pixelsWide: 1280, pixelsHigh: 800, focalLength: mm(25), distance: m(2.4), frameRate: { value: 2, unit: 'kHz' }, bytesPerPixel: 1, memory: { value: 16, unit: 'GB' }, preFraction: 0.7, lasts: s(0.5), places: [{ name: 'Cap seam', x: m(0.35), y: m(-0.1) }] }],
      channels: [
        { role: 'pressure', label: 'Bag pressure', kind: 'pressure', type: 'pressure', place: 'Filler neck', checkValue: bar(20), sensor: 'pressure' },
        { role: 'pressureFar', label: 'Pressure, far end', kind: 'pressure', type: 'pressure', place: 'Vent', checkValue: bar(20), twin: 'pressure', sensor: 'pressureFar' },
        { role: 'girth', label: 'Girth', kind: 'length', type: 'displacement', place: 'Middle', expected: mm(46), checkValue: mm(50), sensor: 'wireHired' },
        { role: 'water', label: 'Water', kind: 'temperature', type: 'temperature', place: 'Filler neck', expected: { value: 18, unit: '°C' }, rateClass: 'slow', sensor: 'thermocouple' },
      ] as PlannedChannel[],
      watch: [{ kind: 'twin', role: 'pressureFar', value: bar(3), lasts: 1, action: 'hold' }, { kind: 'leak', role: 'pressure', value: { value: 0.25, unit: 'kPa/s' }, lasts: 2, action: 'warn' }, { kind: 'failure', role: 'pressure', value: percent(50), action: 'abort' }],
    },
  },
  {
    article: 'Cabin on its buffer', revision: 'B', title: 'Drops to 1.1 m on buffer B', fixture: 'Drop tower, two rails', method: 'Quick release', cost: 5100, inDays: 18, ready: 'released',
    plan: {
      loading: { kind: 'drop', mass: { value: 418, unit: 'kg' }, guideLoss: percent(4), restitution: 0.15, cfc: 60, deceleration: { value: 61, unit: 'm/s²' }, stroke: mm(190), tower: m(4), size: m(1.6) },
      rungs: [{ target: m(0), hold: s(10) }, { target: m(0.25), hold: s(10) }, { target: m(0.5), hold: s(10), decision: true }, { target: { value: 4.4, unit: 'm/s' }, hold: s(10), decision: true }, { target: m(0), hold: s(10) }],
      ramp: s(120), rate: { value: 10, unit: 'kHz' }, hazards: { falling: { controls: ['lock-out', 'distance', 'catch'] } }, signOff: ['test-lead', 'safety'],
      similitude: { test: { velocity: { value: 4.4, unit: 'm/s' }, density: 1.2, length: m(1.6), mass: { value: 418, unit: 'kg' } }, service: { velocity: { value: 4.1, unit: 'm/s' }, density: 1.0, length: m(1.6), mass: { value: 455, unit: 'kg' } } },
      channels: [{ role: 'acceleration', label: 'Cabin floor', kind: 'acceleration', type: 'acceleration', place: 'Cabin floor', expected: { value: 75, unit: 'm/s²' }, rateClass: 'impact', sensor: 'accelerometer' }] as PlannedChannel[],
    },
  },
  {
    article: 'Winch output shaft', revision: 'S1', title: 'Shaft S1 to yield and break', fixture: 'Torque bench, flange coupling', method: 'Hydraulic arm', cost: 3100, inDays: 27, ready: 'draft',
    plan: {
      loading: { kind: 'torque', path: [{ name: 'Shaft S1', capacity: { value: 2150, unit: 'N·m' }, ratio: 1, cov: 0.06, article: true }, { name: 'Flange coupling', capacity: { value: 2300, unit: 'N·m' }, ratio: 1, cov: 0.05 }, { name: 'Arm pin', capacity: { value: 4200, unit: 'N·m' }, ratio: 1, cov: 0.04 }], stiffness: { value: 21, unit: 'kN·m' } },
      rungs: rungs([0, 400, 800, 1200, 1450, 0, 1700, 1900, 0], 'N·m', 15), ramp: { value: 60, unit: 'N·m/s' }, rate: { value: 50, unit: 'Hz' }, hazards: {}, signOff: ['test-lead', 'safety'],
      channels: [{ role: 'torque', label: 'Torque at the arm', kind: 'torque', type: 'torque', place: 'Arm', sensor: 'torqueCell' }, { role: 'twist', label: 'Twist over the gauge length', kind: 'angle', type: 'inclination', place: 'Gauge length', expected: { value: 5.2, unit: 'deg' }, sensor: 'encoder' }] as PlannedChannel[],
    },
  },
] as const
