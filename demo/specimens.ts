import type { DemoSpecimen, Plan } from './demoSpecimen'
import { benchSpecimens } from './benchSpecimens'
import { kN, mm, percent, s, type PlannedChannel, type SensorName } from './scenario'

/*
 * Specimens of the other kinds of test: what was planned, how their articles really are, and what ended them. Made up.
 */

const m = (value: number) => ({ value, unit: 'm' })
const kPa = (value: number) => ({ value, unit: 'kPa' })

const channel = (
  role: string,
  label: string,
  kind: string,
  sensor: SensorName,
  more: Partial<PlannedChannel> = {},
): PlannedChannel => ({ role, label, kind, place: label, sensor, ...more })
const judged = (place: string, mode: string, note = '') => ({ validity: 'valid', cause: 'article', place, mode, note })
const held = { validity: 'valid', cause: 'none', place: '', mode: '', note: '' }
const signOff = ['test-lead', 'safety']

/*
 * Haul strops: five new, four worn. The third met a cell that ends at 40 kN; the last was read by call-outs on a crane
 * scale.
 */
const strop = (wear: number, gauge: SensorName, fullScale: number, accuracy: number): Plan => ({
  loading: {
    kind: 'pull',
    path: [
      { name: 'Strop', capacity: kN(40), cov: 0.04, article: true },
      { name: 'Shackles', capacity: kN(120), cov: 0.04 },
      { name: 'Anchor', capacity: kN(200), cov: 0.04 },
    ],
    stiffness: { value: 180, unit: 'N/mm' },
    lineLength: m(2.4),
  },
  referenceStrength: kN(40),
  wear,
  gaugeFullScale: kN(fullScale),
  gaugeAccuracy: percent(accuracy),
  rungs: [
    { target: kN(0), hold: s(6) },
    { target: kN(12), hold: s(6) },
    { target: kN(Math.min(46, 0.97 * fullScale)), hold: s(4) },
    { target: kN(0), hold: s(6) },
  ],
  ramp: { value: 0.8, unit: 'kN/s' },
  rate: { value: 10, unit: 'Hz' },
  hazards: { line: { controls: ['tether', 'screen', 'distance'] } },
  signOff,
  channels: [
    channel('force', 'Pull', 'force', gauge, { checkValue: { value: 490.3, unit: 'N' } }),
    channel('displacement', 'Stretch', 'length', 'wireLong', { expected: mm(260), checkValue: mm(50) }),
  ],
})
const strops: DemoSpecimen[] = (
  [
    ['A', 'New strop 1', 0, 31, 'Seam', 'Stitches tear'],
    ['A', 'New strop 2', 0, 32, 'Seam', 'Stitches tear'],
    ['A', 'New strop 3, cell at its end', 0, 38, '', ''],
    ['A', 'New strop 4', 0, 34, 'Eye', 'Webbing tears'],
    ['A', 'New strop 5', 0, 35, 'Seam', 'Stitches tear'],
    ['A-2', 'Worn strop 1', 0.2, 36, 'Edge', 'Webbing tears'],
    ['A-2', 'Worn strop 2', 0.35, 37, 'Edge', 'Webbing tears'],
    ['A-2', 'Worn strop 3', 0.5, 33, 'Edge', 'Webbing tears'],
    ['A-2', 'Worn strop 4, called out', 0.6, 39, 'Edge', 'Webbing tears'],
  ] as const
).map(([revision, title, wear, seed, place, mode], i): DemoSpecimen => {
  const calledOut = i === 8
  const clipped = i === 2
  return {
    article: 'Haul strop',
    revision,
    family: 'pull',
    title,
    fixture: 'Two shackles, tether on both',
    method: 'Hydraulic pull',
    cost: 260,
    inDays: -20,
    plan: calledOut
      ? strop(wear, 'craneScale', 400, 1)
      : clipped
        ? strop(wear, 'cellShort', 40, 0.1)
        : strop(wear, 'cellPull', 60, 0.1),
    file: `strop-${i + 1}.csv`,
    seed,
    logger: calledOut ? 'call-outs' : 'pull',
    ...(clipped ? { truth: { strength: 41_300 } } : {}),
    end: 'article broke',
    judgement: clipped
      ? {
          ...judged('Seam', 'Stitches tear', 'The cell ended at 40 kN before the strop did.'),
          validity: 'valid-with-remarks',
        }
      : judged(place, mode, calledOut ? 'Scale ten times too large; 27 kN was the last that somebody called.' : ''),
  }
})

/* Ballast bags: three to burst, of which the one from the second press is low; and a leak test in a warming hall. */
const bag = (more: Record<string, unknown>): Plan => ({
  loading: {
    kind: 'vessel',
    medium: 'water',
    volume: { value: 180, unit: 'L' },
    radius: mm(210),
    ratedPressure: kPa(25),
    pump: kPa(400),
  },
  requiredFactor: 4,
  ramp: { value: 5, unit: 'kPa/s' },
  rate: { value: 4, unit: 'Hz' },
  hazards: { pressure: { controls: ['water', 'screen', 'depressurise'] } },
  signOff,
  channels: [
    channel('pressure', 'Bag pressure', 'pressure', 'pressureBurst', { checkValue: kPa(20), expected: kPa(128) }),
    channel('temperature', 'Water', 'temperature', 'thermocouple', { expected: { value: 19, unit: '°C' } }),
  ],
  ...more,
  rungs: (more['rungs'] ??
    [0, 25, 50, 75, 100, 145, 0].map((p, i) => ({
      target: kPa(p),
      hold: s([20, 60, 40, 40, 40, 2, 15][i]!),
    }))) as object[],
})
const burstOf = (
  revision: string,
  title: string,
  file: string,
  seed: number,
  strength: number,
  place: string,
): DemoSpecimen => ({
  article: 'Ballast bag',
  revision,
  family: 'burst',
  title,
  fixture: 'Cradle in the burst pit',
  method: 'Water, hand pump',
  cost: 900,
  inDays: -15,
  plan: bag({}),
  file,
  seed,
  truth: { strength },
  logger: 'burst',
  end: 'article broke',
  judgement: judged(place, 'Peel'),
})
const bags: DemoSpecimen[] = [
  burstOf('A', 'Bag 1 to burst', 'bag-1.csv', 41, 126_800, 'Cap seam'),
  burstOf('A', 'Bag 2 to burst', 'bag-2.csv', 42, 129_900, 'Cap seam'),
  burstOf('B', 'Bag 1 of press 2 to burst', 'bag-3.csv', 43, 114_200, 'Cap seam'),
  {
    article: 'Ballast bag',
    revision: 'A',
    family: 'burst',
    title: 'Leak over ten minutes',
    fixture: 'Cradle in the burst pit',
    method: 'Water, valve shut',
    cost: 300,
    inDays: -16,
    plan: bag({
      rate: { value: 1, unit: 'Hz' },
      rungs: [0, 25, 0].map((p, i) => ({ target: kPa(p), hold: s([15, 620, 15][i]!) })),
    }),
    file: 'bag-leak.csv',
    seed: 44,
    truth: { strength: 200_000, leak: 4.2e-6, warming: 1.3e-3 },
    logger: 'leak',
    end: 'ladder done',
    judgement: held,
  },
]

/* Buffer tubes: three slow, one fast, one of the retuned wall. */
const tube = (wall: number, linearMass: number, mean: number, fast: boolean): Plan => ({
  loading: {
    kind: 'direct',
    commands: 'length',
    name: 'Platen travel',
    role: 'displacement',
    stored: { kind: 'line', force: kN(60), stiffness: { value: 40, unit: 'kN/mm' } },
  },
  linearMass: { value: linearMass, unit: 'kg/m' },
  length: mm(240),
  wall: mm(wall),
  speed: fast ? { value: 4.6, unit: 'm/s' } : { value: 1.75, unit: 'mm/s' },
  rungs: [
    { target: mm(0), hold: s(fast ? 0.02 : 4) },
    { target: mm(205), hold: s(fast ? 0.02 : 2) },
    { target: mm(0), hold: s(fast ? 0.02 : 2) },
  ],
  ramp: s(fast ? 0.0446 : 117),
  rate: fast ? { value: 20, unit: 'kHz' } : { value: 10, unit: 'Hz' },
  hazards: { energy: { controls: ['screen', 'distance'] } },
  signOff,
  channels: [
    channel('force', 'Crush force', 'force', 'cellPress', {
      expected: { value: mean / 0.72, unit: 'N' },
      checkValue: { value: 490.3, unit: 'N' },
    }),
    channel('displacement', 'Platen', 'length', 'platen', { checkValue: mm(50) }),
  ],
})
const tubes: DemoSpecimen[] = (
  [
    ['A', 'Tube 1, slow', 51, false],
    ['A', 'Tube 2, slow', 52, false],
    ['A', 'Tube 3, slow', 53, false],
    ['A', 'Tube 4, as fast as a landing', 54, true],
    ['B', 'Tube of the 2.9 mm wall', 55, false],
  ] as const
).map(([revision, title, seed, fast], i): DemoSpecimen => ({
  article: 'Buffer tube',
  revision,
  family: 'crush',
  title,
  fixture: fast ? 'Drop tower, plate on the cell' : 'Press, plates parallel to 0.1 mm',
  method: fast ? 'Falling mass' : 'Platen at 1.75 mm/s',
  cost: 480,
  inDays: -12,
  plan: revision === 'A' ? tube(2.6, 1.18, 25_100, fast) : tube(2.9, 1.31, 28_000, fast),
  file: `tube-${i + 1}.csv`,
  seed,
  logger: 'crush',
  end: 'ladder done',
  judgement: { ...held, mode: 'Splaying from the chamfer' },
}))

/* Cabin on its first buffer: two drops of 1.1 m. */
const dropPlan: Plan = {
  loading: {
    kind: 'drop',
    mass: { value: 418, unit: 'kg' },
    guideLoss: percent(4),
    restitution: 0.12,
    cfc: 60,
    deceleration: { value: 65.5, unit: 'm/s²' },
    stroke: mm(190),
    tower: m(4),
    size: m(1.6),
  },
  rungs: [
    { target: m(0), hold: s(0.3) },
    { target: m(1.1), hold: s(4) },
    { target: m(0), hold: s(0.3) },
  ],
  ramp: s(1),
  rate: { value: 2, unit: 'kHz' },
  hazards: { falling: { controls: ['lock-out', 'distance', 'catch'] } },
  signOff,
  channels: [
    channel('acceleration', 'Cabin floor', 'acceleration', 'accelerometerFloor', {
      expected: { value: 80, unit: 'm/s²' },
      type: 'acceleration',
    }),
  ],
}
const drops: DemoSpecimen[] = ['Drop 1 from 1.1 m', 'Drop 2 from 1.1 m'].map((title, i): DemoSpecimen => ({
  article: 'Cabin on its buffer',
  revision: 'A',
  family: 'drop',
  title,
  fixture: 'Drop tower, two rails',
  method: 'Quick release',
  cost: 1900,
  inDays: -9,
  plan: dropPlan,
  file: `cabin-drop-${i + 1}.csv`,
  seed: 61 + i,
  logger: 'drop',
  end: 'ladder done',
  judgement: { ...held, mode: 'Steady crush' },
}))

/* Pod canopies: two drops of each vent. */
const canopy = (vent: number): Plan => ({
  loading: {
    kind: 'direct',
    commands: 'length',
    name: 'Release height',
    role: 'release',
    stored: { kind: 'mass', mass: { value: 34, unit: 'kg' }, height: m(300) },
  },
  mass: { value: 34, unit: 'kg' },
  referenceArea: { value: 28, unit: 'm²' },
  temperature: { value: 14, unit: '°C' },
  pressure: { value: 905, unit: 'hPa' },
  vent: m(vent),
  rungs: [
    { target: m(0), hold: s(1) },
    { target: m(300), hold: s(75) },
    { target: m(0), hold: s(1) },
  ],
  ramp: s(20),
  rate: { value: 20, unit: 'Hz' },
  hazards: { energy: { controls: ['distance', 'lock-out'] } },
  signOff,
  channels: [
    channel('altitude', 'Height', 'length', 'altimeter', { expected: m(300), checkValue: m(100) }),
    channel('riserForce', 'Riser', 'force', 'cellRiser', {
      expected: kN(1.6),
      checkValue: { value: 490.3, unit: 'N' },
    }),
  ],
})
const canopies: DemoSpecimen[] = (
  [
    ['A', 'Drop 1, small vent', 0.35, 71],
    ['A', 'Drop 2, small vent', 0.35, 72],
    ['B', 'Drop 1, wide vent', 0.55, 73],
    ['B', 'Drop 2, wide vent', 0.55, 74],
  ] as const
).map(([revision, title, vent, seed], i): DemoSpecimen => ({
  article: 'Supply pod canopy',
  revision,
  family: 'descent',
  title,
  fixture: 'From the rope, 300 m',
  method: 'Cut-away release',
  cost: 1200,
  inDays: -7,
  plan: canopy(vent),
  file: `canopy-${i + 1}.csv`,
  seed,
  logger: 'descent',
  end: 'ladder done',
  judgement: { ...held, note: vent < 0.5 ? 'Swings all the way down.' : 'Hangs still, comes down fast.' },
}))

/* Valve housings on the bench, and the probe’s map before and after the turn was filled. */
const benchPlan: Plan = {
  loading: {
    kind: 'flow',
    testPressure: { value: 40, unit: 'inH2O' },
    diameter: mm(28),
    valves: 2,
    coefficient: 0.6,
    benchFlow: { value: 0.16, unit: 'm³/s' },
  },
  kind: 'bench',
  liftFrom: mm(2),
  liftTo: mm(10),
  rungs: [0, 2, 4, 6, 8, 10, 0].map(l => ({ target: mm(l), hold: s(6) })),
  ramp: s(3),
  rate: { value: 5, unit: 'Hz' },
  hazards: { rotating: { controls: ['loose', 'screen'] }, noise: { controls: ['ears'] } },
  signOff,
  channels: [
    channel('flow', 'Meter', 'volumeFlow', 'meter', { checkValue: { value: 0.02, unit: 'm³/s' } }),
    channel('drop', 'Over the housing', 'pressure', 'manometer', {
      checkValue: kPa(5),
      expected: { value: 40, unit: 'inH2O' },
    }),
  ],
}
const mapPlan: Plan = {
  ...benchPlan,
  kind: 'map',
  rungs: [0, 8, 0].map(l => ({ target: mm(l), hold: s(60) })),
  channels: [channel('q', 'Probe', 'pressure', 'manometer', { checkValue: kPa(5), expected: kPa(4) })],
}
const valve = (
  revision: string,
  title: string,
  plan: Plan,
  file: string,
  logger: 'bench' | 'map',
  seed: number,
): DemoSpecimen => ({
  article: 'Brake relief valve housing',
  revision,
  family: 'flow',
  title,
  fixture: 'Adapter plate, putty',
  method: logger === 'bench' ? 'Bench at 40 inH2O' : 'Probe on a grid of 4 mm, lift 8 mm',
  cost: 420,
  inDays: -5,
  plan,
  file,
  seed,
  logger,
  end: 'ladder done',
  judgement: held,
})
const valves: DemoSpecimen[] = [
  valve('B', 'Bench: stock and wide bowl', benchPlan, 'valve-b.csv', 'bench', 81),
  valve('C', 'Bench: stock and both runners', benchPlan, 'valve-c.csv', 'bench', 81),
  valve('B', 'Map behind the wide bowl', mapPlan, 'valve-map-b.csv', 'map', 82),
  valve('C', 'Map behind the filled turn', mapPlan, 'valve-map-c.csv', 'map', 83),
]

/** Runners on the bench: coefficient, and where a lift falls short of its smooth curve. */
export const runners = {
  Stock: { coefficient: 0.585, dip: 0, dipAt: 0.2 },
  'Wide bowl': { coefficient: 0.665, dip: 0.16, dipAt: 0.21 },
  'Filled turn': { coefficient: 0.648, dip: 0.02, dipAt: 0.21 },
}

export const specimens: DemoSpecimen[] = [
  ...strops,
  ...bags,
  ...tubes,
  ...drops,
  ...canopies,
  ...valves,
  ...benchSpecimens,
]
