import { kN, mm, percent, s, type PlannedChannel, type SensorName } from './scenario'
import type { DemoSpecimen } from './demoSpecimen'

/*
 * Shells, drives, shafts, cabinets, bars, probes and coupons: what was planned, how they really are, what ended them.
 * Made up.
 */

const of = (unit: string) => (value: number) => ({ value, unit })
const [m, GPa, hertz, kHz, volt, watt, amp, Nm, degC, kPa] = [
  'm',
  'GPa',
  'Hz',
  'kHz',
  'V',
  'W',
  'A',
  'N·m',
  '°C',
  'kPa',
].map(of) as [
  typeof mm,
  typeof mm,
  typeof mm,
  typeof mm,
  typeof mm,
  typeof mm,
  typeof mm,
  typeof mm,
  typeof mm,
  typeof mm,
]
const channel = (
  role: string,
  label: string,
  kind: string,
  sensor: SensorName,
  more: Partial<PlannedChannel> = {},
): PlannedChannel => ({ role, label, kind, place: label, sensor, ...more })
const signOff = ['test-lead', 'safety']
const held = { validity: 'valid', cause: 'none', place: '', mode: '', note: '' }
const judged = (place: string, mode: string, note = '') => ({ validity: 'valid', cause: 'article', place, mode, note })
const direct = (commands: string, name: string, role: string) => ({ kind: 'direct', commands, name, role })

/* The mast shell: six dents around, read by fifteen gauges, a little off the axis, a little pressed from inside. */
const RING = Array.from({ length: 15 }, (_, i) => ({ channel: `dent${i + 1}`, angle: { value: 24 * i, unit: '°' } }))
const shell: DemoSpecimen = {
  article: 'Mast shell',
  revision: 'A',
  family: 'buckling',
  title: 'Pressed until it buckles',
  fixture: 'Hired press, ends bedded in resin',
  method: 'Axial force 8 mm off the axis, 4 kPa inside',
  cost: 21_500,
  inDays: -4,
  plan: {
    loading: {
      kind: 'pull',
      direction: 'compression',
      path: [
        { name: 'Mast shell', capacity: kN(340), cov: 0.08, article: true },
        { name: 'Press', capacity: kN(1200), cov: 0.02 },
      ],
      stiffness: { value: 140, unit: 'kN/mm' },
    },
    radius: mm(450),
    thickness: mm(1),
    length: m(1.8),
    modulus: GPa(205),
    poisson: 0.3,
    density: { value: 7850, unit: 'kg/m³' },
    designFactor: 0.54,
    innerPressure: kPa(4),
    eccentricity: mm(8),
    ring: RING,
    rungs: [0, 80, 160, 240, 370, 0].map((f, i) => ({ target: kN(f), hold: s([6, 4, 4, 4, 1, 4][i]!) })),
    ramp: of('kN/s')(8),
    rate: hertz(10),
    hazards: { spring: { controls: ['screen', 'distance'] } },
    signOff,
    channels: [
      channel('force', 'Axial force', 'force', 'cellMast', { checkValue: kN(50) }),
      channel('moment', 'Moment at the head', 'torque', 'momentCell', {
        expected: of('kN·m')(2.9),
        checkValue: Nm(500),
      }),
      channel('pressure', 'Inner pressure', 'pressure', 'pressure', { expected: kPa(4), checkValue: kPa(4) }),
      channel('deflection', 'Shortening', 'length', 'dial', { expected: mm(2.4), checkValue: mm(5) }),
      ...RING.map((g, i) =>
        channel(g.channel, `Dent gauge ${i + 1}`, 'length', `dent${i + 1}`, {
          expected: mm(1),
          checkValue: mm(1),
          place: `${24 * i}° around`,
        }),
      ),
    ],
  },
  file: 'mast-shell.csv',
  seed: 91,
  truth: { strength: 341_000, critical: 362_000, dent: 6e-5 },
  logger: 'buckling',
  end: 'article broke',
  judgement: judged(
    '0.6 m above the foot',
    'Inward dents, six around',
    'Between the lower bound and the scanned model.',
  ),
}

/* The fan drive: brought to 90 %, not beyond. */
const drive: DemoSpecimen = {
  article: 'Sway-damping fan drive',
  revision: 'A',
  family: 'spin',
  title: 'Set-points up to 90 %',
  fixture: 'Thrust bench, cage',
  method: 'Set-points of 10 s',
  cost: 640,
  inDays: -3,
  plan: {
    loading: {
      kind: 'setpoints',
      fullSpeed: of('rpm')(3000),
      fullThrust: { value: 103, unit: 'N' },
      fullPower: watt(2000),
      supplyVoltage: volt(48),
      currentLimit: amp(42),
      rotorInertia: 0.021,
      diameter: mm(560),
      largestStep: 0.2,
    },
    armA: mm(120),
    armB: mm(120),
    diskArea: of('m²')(0.246),
    temperatureLimit: degC(110),
    powerLimit: watt(1900),
    rungs: [0, 0.2, 0.4, 0.6, 0.75, 0.9, 1, 0].map((v, i) => ({
      target: v,
      hold: s(i === 7 ? 4 : 10),
      ...(i === 6 ? { decision: true } : {}),
    })),
    ramp: s(4),
    rate: hertz(200),
    hazards: { rotating: { controls: ['loose', 'screen'] } },
    signOff,
    watch: [
      { kind: 'next-rung', role: 'current', value: amp(42), action: 'hold', lasts: 3 },
      { kind: 'limit', role: 'temperature', value: degC(110), action: 'abort' },
    ],
    channels: [
      channel('setpoint', 'Set-point', 'ratio', 'controller', { checkValue: percent(20) }),
      channel('thrust', 'Thrust', 'force', 'thrustCell', { expected: of('N')(100), checkValue: of('N')(49.03) }),
      channel('forceA', 'Torque cell A', 'force', 'armCellA', { expected: of('N')(28), checkValue: of('N')(9.807) }),
      channel('forceB', 'Torque cell B', 'force', 'armCellB', { expected: of('N')(28), checkValue: of('N')(9.807) }),
      channel('voltage', 'Supply', 'voltage', 'voltmeter', { expected: volt(48), checkValue: volt(24) }),
      channel('current', 'Current', 'current', 'shunt', { expected: amp(42), checkValue: amp(10) }),
      channel('speed', 'Speed', 'rotation', 'tacho', { expected: of('rpm')(3000), checkValue: of('rpm')(600) }),
      channel('temperature', 'Winding', 'temperature', 'thermocouple', { expected: degC(95) }),
      channel('vibration', 'Bearing housing', 'acceleration', 'accelerometerFloor', {
        expected: of('m/s²')(60),
        checkValue: of('m/s²')(9.81),
      }),
    ],
  },
  file: 'fan-drive.csv',
  seed: 92,
  truth: { torque: 5.75, thrust: 104, imbalance: 3.1, efficiency: 0.79, heating: 0.12 },
  logger: 'spin',
  end: 'ladder done',
  judgement: { ...held, note: 'The next set-point would pass the current limit: not commanded.' },
}

/* The inverter: at full power in its closed housing, and the first ten minutes with the lid vented. */
const inverter = (
  title: string,
  file: string,
  seed: number,
  minutes: number,
  rise: number,
  note: string,
): DemoSpecimen => ({
  article: 'Fan drive inverter',
  revision: 'A',
  family: 'thermal',
  title,
  fixture: 'Bench, still air',
  method: 'Full power into a load bank',
  cost: 180,
  inDays: -6,
  plan: {
    loading: direct('power', 'Heating power', 'power'),
    ambient: degC(22),
    limit: degC(85),
    rungs: [
      { target: watt(0), hold: s(60) },
      { target: watt(320), hold: s(60 * minutes) },
      { target: watt(0), hold: s(10) },
    ],
    ramp: s(2),
    rate: hertz(0.5),
    hazards: { energy: { controls: ['distance'] } },
    signOff,
    channels: [
      channel('temperature', 'Capacitor bank', 'temperature', 'thermocouple', { expected: degC(90) }),
      channel('power', 'Power', 'power', 'powerMeter', { checkValue: watt(100) }),
    ],
  },
  file,
  seed,
  truth: { ambient: 295.15, rise, time: 470 },
  logger: 'thermal',
  end: 'ladder done',
  judgement: { ...held, note },
})
const inverters = [
  inverter('Full power, closed housing', 'inverter-closed.csv', 93, 36, 69.4 / 320, ''),
  inverter(
    'Full power, lid vented: ten minutes',
    'inverter-vented.csv',
    94,
    10,
    55 / 320,
    'Stopped while it still climbed.',
  ),
]

/* Eight shafts, a half-fraction of fillet, steel, temper and peening. The best one is stronger than the coupling. */
const COUPLING = 2290
const shafts = (
  [
    [-1, -1, -1],
    [1, -1, -1],
    [-1, 1, -1],
    [1, 1, -1],
    [-1, -1, 1],
    [1, -1, 1],
    [-1, 1, 1],
    [1, 1, 1],
  ] as const
).map(([fillet, steel, temper], i): DemoSpecimen => {
  const peened = fillet * steel * temper
  const ultimate = 2030 + 95 * fillet + 150 * steel + 22 * temper + 58 * peened + [6, -11, 4, 9, -7, 12, -5, 0][i]!
  const byCoupling = ultimate > COUPLING
  return {
    article: 'Winch output shaft',
    revision: `S${i + 1}`,
    family: 'torque',
    title: `Shaft S${i + 1} to break`,
    fixture: 'Torque bench, flange coupling',
    method: 'Hydraulic arm',
    cost: 310,
    inDays: -8,
    plan: {
      loading: {
        kind: 'torque',
        path: [
          { name: `Shaft S${i + 1}`, capacity: Nm(2150), ratio: 1, cov: 0.06, article: true },
          { name: 'Flange coupling', capacity: Nm(2800), ratio: 1, cov: 0.05 },
          { name: 'Arm pin', capacity: Nm(4200), ratio: 1, cov: 0.04 },
        ],
        stiffness: of('kN·m')(21),
      },
      requiredTorque: Nm(1450),
      offset: of('°')(0.25),
      rungs: [0, 600, 1200, 2460, 0].map((v, k) => ({ target: Nm(v), hold: s([6, 4, 4, 1, 4][k]!) })),
      ramp: of('N·m/s')(60),
      rate: hertz(10),
      hazards: { wound: { controls: ['screen', 'distance'] } },
      signOff,
      channels: [
        channel('torque', 'Torque at the arm', 'torque', 'torqueCell', { checkValue: Nm(500) }),
        channel('twist', 'Twist over the gauge length', 'angle', 'encoder', {
          expected: of('°')(9),
          checkValue: of('°')(5),
        }),
      ],
    },
    file: `shaft-${i + 1}.csv`,
    seed: 101 + i,
    truth: {
      ultimate: Math.min(ultimate, COUPLING),
      yield: 0.815 * ultimate + 20 * steel,
      stiffness: 21_000 * (1 + 0.004 * steel),
    },
    logger: 'torque',
    end: byCoupling ? 'fixture gave way' : 'article broke',
    judgement: byCoupling
      ? {
          validity: 'valid-with-remarks',
          cause: 'fixture',
          place: 'Flange coupling',
          mode: 'Bolts sheared',
          note:
            'The coupling carried 2.3 kN·m, not the 2.8 of its sheet: it is the weakest link now, and the ' +
            'shaft carried at least that.',
        }
      : judged('Fillet', 'Twist, then a turned fracture'),
  }
})

/* The cabinet before and after its hours on the shaker: a bracket came loose. */
const cabinet = (
  title: string,
  file: string,
  seed: number,
  truth: Record<string, number>,
  before: boolean,
): DemoSpecimen => ({
  article: 'Control cabinet',
  revision: 'A',
  family: 'vibration',
  title,
  fixture: 'Shaker, base plate',
  method: 'Random, 0.004 g²/Hz',
  cost: 720,
  inDays: before ? -2 : -3,
  plan: {
    loading: {
      kind: 'shaker',
      breakpoints: [
        { frequency: hertz(5), density: of('g²/Hz')(0.004) },
        { frequency: hertz(200), density: of('g²/Hz')(0.004) },
      ],
      articleMass: of('kg')(34),
      fixtureMass: of('kg')(11),
      armatureMass: of('kg')(9),
      forceRating: kN(8),
      travel: mm(50),
    },
    minFrequency: hertz(32),
    bandFrom: hertz(10),
    bandTo: hertz(160),
    ...(before
      ? {
          before: [
            { frequency: hertz(35.4), damping: 0.024 },
            { frequency: hertz(96), damping: 0.018 },
          ],
        }
      : {}),
    shapes: [
      { frequency: hertz(36), values: [1, 0.866, 0.5] },
      { frequency: hertz(99), values: [1, 0, -1] },
    ],
    rungs: [
      { target: of('m/s²')(0), hold: s(1) },
      { target: of('m/s²')(9.8), hold: s(48) },
      { target: of('m/s²')(0), hold: s(1) },
    ],
    ramp: s(1),
    rate: hertz(512),
    hazards: { shaking: { controls: ['distance'] }, noise: { controls: ['ears'] } },
    signOff,
    channels: [
      channel('drive', 'Base plate', 'acceleration', 'accelerometerFloor', {
        expected: of('m/s²')(30),
        checkValue: of('m/s²')(9.81),
      }),
      ...(['Cabinet top', 'Cabinet middle', 'Cabinet foot'] as const).map((label, i) =>
        channel(
          ['response', 'middle', 'foot'][i]!,
          label,
          'acceleration',
          (['accelerometerTop', 'accelerometerMiddle', 'accelerometerFoot'] as const)[i]!,
          { x: m(1.2 - 0.4 * i), expected: of('m/s²')(80), checkValue: of('m/s²')(9.81) },
        ),
      ),
    ],
  },
  file,
  seed,
  truth,
  logger: 'vibration',
  end: 'ladder done',
  judgement: before
    ? judged('Bracket', 'Bolts lost their preload', 'Found by its signature: 16 % lower than before.')
    : held,
})
const cabinets = [
  cabinet('Survey before the shake', 'cabinet-before.csv', 95, { f1: 35.4, z1: 0.024, f2: 96, z2: 0.018 }, false),
  cabinet('Survey after the shake', 'cabinet-after.csv', 96, { f1: 29.7, z1: 0.041, f2: 95.4, z2: 0.019 }, true),
]

/* The link’s alloy between two bars of steel: two in compression, one frame. */
const shot = (title: string, file: string, seed: number, velocity: number, frame: boolean): DemoSpecimen => ({
  article: 'Hanger link alloy',
  revision: 'A',
  family: 'bar',
  title,
  fixture: 'Steel bars of 16 mm',
  method: frame ? 'Frame whose ligaments pull' : 'Cylinder, greased',
  cost: 95,
  inDays: -10,
  plan: {
    loading: {
      ...direct('velocity', 'Striker velocity', 'strikerVelocity'),
      stored: { kind: 'mass', mass: of('kg')(0.63), height: m(7.5) },
    },
    barModulus: GPa(200),
    barDensity: { value: 7850, unit: 'kg/m³' },
    barDiameter: mm(16),
    specimenArea: of('mm²')(frame ? 24 : 50.27),
    specimenLength: mm(frame ? 5 : 6),
    gaugeToSpecimenIncident: m(0.9),
    gaugeToSpecimenTransmitted: m(0.7),
    strikerLength: mm(400),
    strikerVelocity: of('m/s')(velocity),
    specimen: frame ? 'frame-tension' : 'compression',
    rungs: [0, velocity, 0].map((v, i) => ({ target: of('m/s')(v), hold: s([2, 1, 1][i]!) })),
    ramp: s(1),
    rate: kHz(1000),
    hazards: { energy: { controls: ['screen', 'lock-out'] } },
    signOff,
    channels: [
      channel('incident', 'Incident bar', 'strain', 'barGauge1', {
        expected: of('µε')(1400),
        checkValue: of('µε')(500),
      }),
      channel('transmitted', 'Transmitted bar', 'strain', 'barGauge2', {
        expected: of('µε')(600),
        checkValue: of('µε')(500),
      }),
    ],
  },
  file,
  seed,
  truth: {
    velocity,
    yield: seed === 98 ? 409e6 : 402e6,
    hardening: 0.62e9,
    area: frame ? 24e-6 : 50.27e-6,
    length: frame ? 0.005 : 0.006,
  },
  logger: 'bar',
  end: 'ladder done',
  judgement: judged(frame ? 'Both ligaments' : 'Barrelled', frame ? 'Necked' : 'Yield'),
})
const shots = [
  shot('Cylinder 1', 'bar-1.csv', 97, 13, false),
  shot('Cylinder 2', 'bar-2.csv', 98, 13, false),
  shot('Frame 1', 'bar-3.csv', 99, 11, true),
]

/*
 * The probe, step by step: its element bare, bonded to the backing, potted behind twelve metres of cable; then its
 * beam.
 */
const MODEL = { R1: of('ohm')(240), L1: of('mH')(19.8), C1: of('nF')(0.8), C0: of('nF')(2.4) }
const sweep = (
  step: 'bare' | 'bonded' | 'potted',
  title: string,
  file: string,
  truth: Record<string, number>,
  note: string,
): DemoSpecimen => ({
  article: 'Rope inspection probe',
  revision: 'A',
  family: 'transducer',
  title,
  fixture: 'Hung on two threads',
  method: 'Impedance sweep, 1 to 80 kHz',
  cost: 40,
  inDays: -11,
  plan: {
    loading: direct('frequency', 'Frequency', 'frequency'),
    kind: 'sweep',
    step,
    model: step === 'bare' ? { ...MODEL, R1: of('ohm')(62) } : MODEL,
    rungs: [0, 1, 80].map(f => ({ target: kHz(f), hold: s(1) })),
    ramp: s(60),
    rate: hertz(10),
    hazards: { energy: { controls: ['distance'] } },
    signOff,
    channels: [
      channel('magnitude', 'Impedance', 'resistance', 'analyser', {
        expected: of('kohm')(60),
        checkValue: of('ohm')(1000),
      }),
      channel('phase', 'Phase', 'angle', 'analyserPhase', { expected: of('°')(90), checkValue: of('°')(45) }),
    ],
  },
  file,
  seed: 111,
  truth,
  logger: 'sweep',
  end: 'ladder done',
  judgement: { ...held, note },
})
const probes: DemoSpecimen[] = [
  sweep('bare', 'Element, bare', 'probe-bare.csv', { R1: 62, L1: 0.0198, C1: 0.8e-9, C0: 2.4e-9, loss: 0.004 }, ''),
  sweep(
    'bonded',
    'Element on its backing',
    'probe-bonded.csv',
    { R1: 247, L1: 0.0198, C1: 0.79e-9, C0: 2.42e-9, loss: 0.005 },
    '',
  ),
  sweep(
    'potted',
    'Potted, with its cable',
    'probe-potted.csv',
    { R1: 245, L1: 0.0199, C1: 0.79e-9, C0: 3.6e-9, loss: 0.006 },
    'Coupling low: is it the element, the backing or the cable?',
  ),
  {
    article: 'Rope inspection probe',
    revision: 'A',
    family: 'transducer',
    title: 'Beam at 40 kHz',
    fixture: 'Tank, turntable',
    method: 'Pulses of 12 cycles, 1 m',
    cost: 160,
    inDays: -10,
    plan: {
      loading: direct('angle', 'Angle of the table', 'angle'),
      kind: 'beam',
      distance: m(1),
      rungs: [0, 180, 0].map(a => ({ target: of('°')(a), hold: s(1) })),
      ramp: s(60),
      rate: hertz(2),
      hazards: { energy: { controls: ['distance'] } },
      signOff,
      channels: [
        channel('level', 'Hydrophone', 'level', 'hydrophone', { expected: of('dB')(140), checkValue: of('dB')(94) }),
      ],
    },
    file: 'probe-beam.csv',
    seed: 112,
    logger: 'beam',
    end: 'ladder done',
    judgement: held,
  },
]

/* The laminate’s sets: modulus and strength, shear, and bearing with one that a drill had torn. */
const set = (
  kind: 'tension' | 'inPlaneShear' | 'bearing',
  title: string,
  file: string,
  seed: number,
  count: number,
  modulus: number,
  strength: number,
  more: object = {},
): DemoSpecimen => ({
  article: 'Hanger laminate',
  revision: { tension: 'A', inPlaneShear: 'A shear', bearing: 'A bearing' }[kind],
  family: 'coupon',
  title,
  fixture: 'Wedge grips',
  method: 'Clip gauge, 1 mm/min',
  cost: 60 * count,
  inDays: -18,
  plan: {
    loading: {
      kind: 'pull',
      path: [
        { name: 'Coupon', capacity: kN(30), cov: 0.05, article: true },
        { name: 'Grips', capacity: kN(100), cov: 0.02 },
      ],
    },
    kind,
    width: mm(25),
    thickness: mm(3),
    ...more,
    rungs: [0, 34, 0].map((f, i) => ({ target: kN(f), hold: s([4, 1, 4][i]!) })),
    ramp: of('kN/s')(0.5),
    rate: hertz(5),
    hazards: { line: { controls: ['screen'] } },
    signOff,
    channels: [
      channel('force', 'Force', 'force', 'cellPull', { checkValue: kN(5) }),
      channel('strain', 'Strain', 'strain', 'clipGauge', { expected: of('µε')(8000), checkValue: of('µε')(2000) }),
    ],
  },
  file,
  seed,
  truth: { count, modulus, strength },
  logger: 'coupons',
  end: 'article broke',
  judgement: judged('Gauge length', kind === 'bearing' ? 'Bearing' : 'Across the gauge'),
})
const coupons = [
  set('tension', 'Six in tension', 'coupon-tension.csv', 121, 6, 57.4e9, 452e6),
  set('inPlaneShear', 'Five in shear', 'coupon-shear.csv', 122, 5, 21.5e9, 198e6),
  set('bearing', 'Six in bearing', 'coupon-bearing.csv', 123, 6, 9.5e9, 610e6, { diameter: mm(6) }),
]

export const benchSpecimens: DemoSpecimen[] = [
  shell,
  drive,
  ...inverters,
  ...shafts,
  ...cabinets,
  ...shots,
  ...probes,
  ...coupons,
]
