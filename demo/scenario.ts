/* The made-up campaign: Varnholt Ropeway Works builds the Tarn carrier. All names and numbers are invented. */

export const mm = (value: number) => ({ value, unit: 'mm' })
export const kN = (value: number) => ({ value, unit: 'kN' })
export const s = (value: number) => ({ value, unit: 's' })
export const percent = (value: number) => ({ value, unit: '%' })
const laminate = {
  modulus: { value: 58, unit: 'GPa' },
  strength: { value: 420, unit: 'MPa' },
  shearStrength: { value: 60, unit: 'MPa' },
  density: 1550,
}
const arm = {
  section: 'box',
  length: { value: 2.1, unit: 'm' },
  width: mm(80),
  rootHeight: mm(120),
  tipHeight: mm(70),
  ...laminate,
}

export const campaign = {
  title: 'Tarn carrier',
  purpose: 'Show that the cabin, what it hangs on and what drives it hold, before the season opens.',
  weeksToDue: 11,
  budget: 166_000,
  currency: 'EUR',
}

export const article = {
  name: 'Hanger arm',
  family: 'static',
  note: 'Tapered carbon box, 2.1 m: carries the cabin from the rope carriage.',
  features: ['bonded inserts', 'carbon laminate', 'tapered box'],
}

export const limits = [
  {
    name: 'Ultimate load',
    quantity: 'maxLoad',
    comparator: 'atLeast',
    level: 'ultimate',
    entered: kN(3.2),
    factor: 1.5,
    source: 'Limit load of the full cabin in a gust',
  },
  {
    name: 'Service deflection',
    quantity: 'deflectionAtDesign',
    comparator: 'atMost',
    level: 'service',
    entered: mm(82),
    source: 'Cabin floor clears the hut’s platform',
  },
  {
    name: 'Permanent set',
    quantity: 'permanentSet',
    comparator: 'atMost',
    level: 'limit',
    entered: mm(1.0),
    source: 'Carriage alignment after the proof load',
  },
] as const

/** What the shop can make of the arm: plies of a quarter millimetre; another height is another mould. */
export const armSizing = {
  wantedMargin: 0.02,
  made: {
    capThickness: { step: mm(0.25), lowest: mm(1.5), leadTimeDays: 12, cost: 620 },
    webThickness: { step: mm(0.25), lowest: mm(1.5), leadTimeDays: 12, cost: 450 },
    rootHeight: { step: mm(1), leadTimeDays: 35, cost: 4800 },
    tipHeight: { step: mm(1), leadTimeDays: 35, cost: 0 },
  },
}

/** Sensors by a short name, as the plans refer to them. */
/** Fifteen alike around the mast shell. */
const dents = Object.fromEntries(
  Array.from({ length: 15 }, (_, i) => [
    `dent${i + 1}`,
    {
      name: `Dent gauge G-${i + 1}`,
      kind: 'length',
      serial: `G-${i + 1}`,
      fullScale: mm(5),
      calibrationU: mm(0.004),
      linearity: percent(0.2),
      place: 'Hired press',
    },
  ]),
) as Record<
  `dent${number}`,
  {
    name: string
    kind: string
    serial: string
    fullScale: { value: number; unit: string }
    calibrationU: { value: number; unit: string }
    linearity: { value: number; unit: string }
    place: string
  }
>

export const sensors = {
  cellHired: {
    name: 'Load cell LC-11 (hired)',
    kind: 'force',
    serial: '11-0482',
    fullScale: { value: 2000, unit: 'lbf' },
    sensitivity: '2.998 mV/V',
    calibrationU: { value: 6, unit: 'lbf' },
    linearity: percent(0.1),
    hysteresis: percent(0.08),
    repeatability: percent(0.05),
    place: 'Hire bay',
  },
  cell: {
    name: 'Load cell LC-04',
    kind: 'force',
    serial: '04-1177',
    fullScale: kN(10),
    sensitivity: '2.004 mV/V',
    calibrationU: { value: 12, unit: 'N' },
    linearity: percent(0.05),
    hysteresis: percent(0.05),
    repeatability: percent(0.03),
    place: 'Rig 1',
  },
  wireHired: {
    name: 'Draw-wire W-7 (hired)',
    kind: 'length',
    serial: 'W7-20',
    fullScale: { value: 10, unit: 'in' },
    calibrationU: { value: 0.01, unit: 'in' },
    linearity: percent(0.1),
    repeatability: percent(0.05),
    hysteresis: percent(0.05),
    place: 'Hire bay',
  },
  wire: {
    name: 'Draw-wire W-2',
    kind: 'length',
    serial: 'W2-09',
    fullScale: mm(250),
    calibrationU: mm(0.1),
    linearity: percent(0.08),
    repeatability: percent(0.03),
    hysteresis: percent(0.03),
    resolution: mm(0.02),
    place: 'Rig 1',
  },
  cellSmall: {
    name: 'Load cell LC-07',
    kind: 'force',
    serial: '07-0031',
    fullScale: kN(5),
    sensitivity: '2.001 mV/V',
    calibrationU: { value: 5, unit: 'N' },
    linearity: percent(0.04),
    hysteresis: percent(0.04),
    repeatability: percent(0.02),
    place: 'Rig 1',
  },
  torqueCell: {
    name: 'Torque cell M-1',
    kind: 'torque',
    serial: 'M1-12',
    fullScale: { value: 2.5, unit: 'kN·m' },
    calibrationU: { value: 4, unit: 'N·m' },
    linearity: percent(0.1),
    hysteresis: percent(0.1),
    place: 'Torque bench',
  },
  encoder: {
    name: 'Twist encoder E-1',
    kind: 'angle',
    serial: 'E1-08',
    fullScale: { value: 20, unit: 'deg' },
    resolution: { value: 0.002, unit: 'deg' },
    linearity: percent(0.05),
    place: 'Torque bench',
  },
  gauge: {
    name: 'Strain gauge pair RC-1',
    kind: 'strain',
    fullScale: { value: 8000, unit: 'µε' },
    calibrationU: { value: 20, unit: 'µε' },
    note: 'On the root cap, full bridge',
    place: 'Arm B',
  },
  gaugeTwin: {
    name: 'Strain gauge pair RC-2',
    kind: 'strain',
    fullScale: { value: 8000, unit: 'µε' },
    calibrationU: { value: 20, unit: 'µε' },
    note: 'Beside RC-1, its twin',
    place: 'Arm B',
  },
  dial: {
    name: 'Dial gauge D-3',
    kind: 'length',
    serial: 'D-3',
    fullScale: mm(10),
    resolution: mm(0.01),
    repeatability: percent(0.1),
    place: 'Cupboard 2',
  },
  dialOld: {
    name: 'Dial gauge D-5',
    kind: 'length',
    serial: 'D-5',
    fullScale: mm(10),
    resolution: mm(0.01),
    repeatability: percent(0.15),
    place: 'Cupboard 2',
    calibratedDaysAgo: 388,
  },
  pressure: {
    name: 'Pressure cell P-1',
    kind: 'pressure',
    serial: 'P1-33',
    fullScale: { value: 250, unit: 'kPa' },
    calibrationU: { value: 0.3, unit: 'kPa' },
    linearity: percent(0.1),
    place: 'Burst pit',
    calibratedDaysAgo: 350,
  },
  pressureFar: {
    name: 'Pressure cell P-2',
    kind: 'pressure',
    serial: 'P2-34',
    fullScale: { value: 250, unit: 'kPa' },
    calibrationU: { value: 0.3, unit: 'kPa' },
    linearity: percent(0.1),
    place: 'Burst pit',
  },
  thermocouple: {
    name: 'Thermocouple T-4',
    kind: 'temperature',
    serial: 'T4',
    fullScale: { value: 400, unit: '°C' },
    calibrationU: { value: 1.5, unit: '°C' },
    place: 'Electronics bench',
  },
  accelerometer: {
    name: 'Accelerometer A-2',
    kind: 'acceleration',
    serial: 'A2-5501',
    fullScale: { value: 500, unit: 'm/s²' },
    sensitivity: '10.12 mV/(m/s²)',
    linearity: percent(1),
    place: 'Shaker',
    state: 'suspect',
    note: 'Fell from the mast head; check before it counts',
  },
  cellPull: {
    name: 'Load cell LC-21',
    kind: 'force',
    serial: '21-0077',
    fullScale: kN(60),
    sensitivity: '2.002 mV/V',
    calibrationU: { value: 30, unit: 'N' },
    linearity: percent(0.05),
    hysteresis: percent(0.05),
    repeatability: percent(0.03),
    place: 'Pull bed',
  },
  cellShort: {
    name: 'Load cell LC-19',
    kind: 'force',
    serial: '19-0311',
    fullScale: kN(40),
    sensitivity: '1.998 mV/V',
    calibrationU: { value: 24, unit: 'N' },
    linearity: percent(0.05),
    hysteresis: percent(0.05),
    place: 'Pull bed',
  },
  craneScale: {
    name: 'Crane scale S-400',
    kind: 'force',
    serial: 'S400-2',
    fullScale: kN(400),
    linearity: percent(1),
    resolution: kN(0.5),
    place: 'Yard',
  },
  wireLong: {
    name: 'Draw-wire W-5',
    kind: 'length',
    serial: 'W5-02',
    fullScale: mm(500),
    calibrationU: mm(0.2),
    linearity: percent(0.1),
    place: 'Pull bed',
  },
  pressureBurst: {
    name: 'Pressure cell P-3',
    kind: 'pressure',
    serial: 'P3-40',
    fullScale: { value: 250, unit: 'kPa' },
    calibrationU: { value: 0.3, unit: 'kPa' },
    linearity: percent(0.1),
    place: 'Burst pit',
  },
  cellPress: {
    name: 'Load cell LC-30',
    kind: 'force',
    serial: '30-0009',
    fullScale: kN(100),
    calibrationU: { value: 60, unit: 'N' },
    linearity: percent(0.05),
    hysteresis: percent(0.05),
    place: 'Press',
  },
  platen: {
    name: 'Platen gauge T-300',
    kind: 'length',
    serial: 'T300-1',
    fullScale: mm(300),
    calibrationU: mm(0.1),
    linearity: percent(0.05),
    place: 'Press',
  },
  accelerometerFloor: {
    name: 'Accelerometer A-5',
    kind: 'acceleration',
    serial: 'A5-7720',
    fullScale: { value: 250, unit: 'm/s²' },
    sensitivity: '20.04 mV/(m/s²)',
    calibrationU: { value: 1.2, unit: 'm/s²' },
    linearity: percent(0.5),
    place: 'Drop tower',
  },
  altimeter: {
    name: 'Altimeter H-1',
    kind: 'length',
    serial: 'H1-11',
    fullScale: { value: 500, unit: 'm' },
    calibrationU: { value: 1.5, unit: 'm' },
    linearity: percent(0.2),
    place: 'Pod',
  },
  cellRiser: {
    name: 'Riser cell LC-8',
    kind: 'force',
    serial: '08-0140',
    fullScale: kN(3),
    calibrationU: { value: 6, unit: 'N' },
    linearity: percent(0.2),
    place: 'Pod',
  },
  meter: {
    name: 'Flow meter Q-1',
    kind: 'volumeFlow',
    serial: 'Q1-03',
    fullScale: { value: 0.1, unit: 'm³/s' },
    calibrationU: { value: 0.0004, unit: 'm³/s' },
    linearity: percent(0.3),
    place: 'Flow bench',
  },
  manometer: {
    name: 'Manometer D-15',
    kind: 'pressure',
    serial: 'D15-6',
    fullScale: { value: 15, unit: 'kPa' },
    calibrationU: { value: 0.03, unit: 'kPa' },
    linearity: percent(0.1),
    place: 'Flow bench',
  },
  cellMast: {
    name: 'Load cell LC-500 (hired)',
    kind: 'force',
    serial: '500-0021',
    fullScale: kN(500),
    calibrationU: { value: 250, unit: 'N' },
    linearity: percent(0.05),
    hysteresis: percent(0.05),
    place: 'Hired press',
  },
  momentCell: {
    name: 'Moment bridge B-4',
    kind: 'torque',
    serial: 'B4-02',
    fullScale: { value: 6, unit: 'kN·m' },
    calibrationU: { value: 12, unit: 'N·m' },
    linearity: percent(0.2),
    place: 'Hired press',
  },
  ...dents,
  controller: {
    name: 'Set-point of the controller',
    kind: 'ratio',
    fullScale: percent(120),
    resolution: percent(0.1),
    place: 'Thrust bench',
  },
  thrustCell: {
    name: 'Thrust cell LC-2',
    kind: 'force',
    serial: '02-0415',
    fullScale: { value: 150, unit: 'N' },
    calibrationU: { value: 0.2, unit: 'N' },
    linearity: percent(0.05),
    place: 'Thrust bench',
  },
  armCellA: {
    name: 'Torque cell, arm A',
    kind: 'force',
    serial: '01-0416',
    fullScale: { value: 50, unit: 'N' },
    calibrationU: { value: 0.06, unit: 'N' },
    linearity: percent(0.05),
    place: 'Thrust bench',
  },
  armCellB: {
    name: 'Torque cell, arm B',
    kind: 'force',
    serial: '01-0417',
    fullScale: { value: 50, unit: 'N' },
    calibrationU: { value: 0.06, unit: 'N' },
    linearity: percent(0.05),
    place: 'Thrust bench',
  },
  voltmeter: {
    name: 'Voltmeter V-3',
    kind: 'voltage',
    serial: 'V3',
    fullScale: { value: 60, unit: 'V' },
    linearity: percent(0.1),
    place: 'Thrust bench',
  },
  shunt: {
    name: 'Shunt I-60',
    kind: 'current',
    serial: 'I60',
    fullScale: { value: 60, unit: 'A' },
    linearity: percent(0.3),
    place: 'Thrust bench',
  },
  tacho: {
    name: 'Speed pick-up N-1',
    kind: 'rotation',
    serial: 'N1',
    fullScale: { value: 4000, unit: 'rpm' },
    resolution: { value: 1, unit: 'rpm' },
    place: 'Thrust bench',
  },
  powerMeter: {
    name: 'Power meter W-1',
    kind: 'power',
    serial: 'W1',
    fullScale: { value: 500, unit: 'W' },
    linearity: percent(0.3),
    place: 'Electronics bench',
  },
  accelerometerTop: {
    name: 'Accelerometer A-6',
    kind: 'acceleration',
    serial: 'A6-7731',
    fullScale: { value: 250, unit: 'm/s²' },
    sensitivity: '19.96 mV/(m/s²)',
    linearity: percent(0.5),
    place: 'Shaker',
  },
  accelerometerMiddle: {
    name: 'Accelerometer A-7',
    kind: 'acceleration',
    serial: 'A7-7732',
    fullScale: { value: 250, unit: 'm/s²' },
    sensitivity: '19.96 mV/(m/s²)',
    linearity: percent(0.5),
    place: 'Shaker',
  },
  accelerometerFoot: {
    name: 'Accelerometer A-8',
    kind: 'acceleration',
    serial: 'A8-7733',
    fullScale: { value: 250, unit: 'm/s²' },
    sensitivity: '19.96 mV/(m/s²)',
    linearity: percent(0.5),
    place: 'Shaker',
  },
  barGauge1: {
    name: 'Bar gauges E-1',
    kind: 'strain',
    fullScale: { value: 3000, unit: 'µε' },
    calibrationU: { value: 4, unit: 'µε' },
    linearity: percent(0.2),
    place: 'Bars',
  },
  barGauge2: {
    name: 'Bar gauges E-2',
    kind: 'strain',
    fullScale: { value: 1500, unit: 'µε' },
    calibrationU: { value: 2, unit: 'µε' },
    linearity: percent(0.2),
    place: 'Bars',
  },
  analyser: {
    name: 'Impedance analyser Z-1',
    kind: 'resistance',
    serial: 'Z1',
    fullScale: { value: 100, unit: 'kohm' },
    linearity: percent(0.1),
    place: 'Electronics bench',
  },
  analyserPhase: {
    name: 'Impedance analyser Z-1, phase',
    kind: 'angle',
    serial: 'Z1',
    fullScale: { value: 180, unit: '°' },
    linearity: percent(0.05),
    place: 'Electronics bench',
  },
  hydrophone: {
    name: 'Hydrophone H-9',
    kind: 'level',
    serial: 'H9',
    fullScale: { value: 200, unit: 'dB' },
    calibrationU: { value: 0.5, unit: 'dB' },
    place: 'Tank',
  },
  clipGauge: {
    name: 'Clip gauge X-25',
    kind: 'strain',
    serial: 'X25',
    fullScale: { value: 50_000, unit: 'µε' },
    linearity: percent(0.1),
    place: 'Coupon press',
  },
} as const

export type SensorName = keyof typeof sensors | `dent${number}`

const ladder = [0, 0.8, 1.6, 2.4, 3.2, 0, 4.0, 4.8, 5.6, 0]

type Q = { value: number; unit: string }
export interface PlannedChannel {
  role: string
  label: string
  kind: string
  type?: string
  x?: Q
  place?: string
  expected?: Q
  checkValue?: Q
  rateClass?: string
  twin?: string
  sensor: SensorName
}

export function planWith(load: SensorName, deflection: SensorName, more: PlannedChannel[]) {
  return {
    designLoad: kN(3.2),
    loading: {
      kind: 'points',
      loads: [
        { x: { value: 2.1, unit: 'm' }, share: 0.8 },
        { x: { value: 1.1, unit: 'm' }, share: 0.2 },
      ],
    },
    deflectionAt: { value: 2.1, unit: 'm' },
    rungs: ladder.map((target, i) => ({
      target: kN(target),
      hold: s(i === ladder.length - 1 ? 60 : target === 0 ? 24 : 20),
    })),
    ramp: s(12),
    rate: { value: 10, unit: 'Hz' },
    minHold: s(12),
    holdTolerance: { value: 25, unit: 'N' },
    predictionBand: 0.1,
    capacities: { actuator: kN(10), fixture: kN(8) },
    hazards: { spring: { controls: ['tether', 'screen', 'distance'], note: 'Barrier tape at 3 m' } },
    people: [
      { name: 'Mara Lindqvist', task: 'calls the rungs' },
      { name: 'Jonte Ahrens', task: 'jack and logger' },
    ],
    signOff: ['test-lead', 'safety'],
    channels: [
      {
        role: 'load',
        label: 'Load at the hook',
        kind: 'force',
        type: 'load',
        place: 'Hook',
        checkValue: { value: 490.3, unit: 'N' },
        sensor: load,
      },
      {
        role: 'deflection',
        label: 'Tip deflection',
        kind: 'length',
        type: 'displacement',
        place: 'Tip',
        checkValue: mm(50),
        sensor: deflection,
      },
      ...more,
    ],
  }
}

const rootStrain = {
  role: 'strainRoot',
  label: 'Root cap strain',
  kind: 'strain',
  type: 'strain',
  x: mm(150),
  place: 'Root cap, lower',
  checkValue: { value: 1744, unit: 'µε' },
  sensor: 'gauge' as const,
}
const frame = {
  role: 'frame',
  label: 'Frame motion',
  kind: 'length',
  type: 'displacement',
  place: 'Frame',
  expected: mm(4),
  checkValue: mm(5),
  sensor: 'dial' as const,
}

export const revisions = [
  {
    label: 'A',
    changed: '',
    why: 'First build',
    mass: 3.52,
    properties: { ...arm, capThickness: mm(3.75), webThickness: mm(2) },
    facts: [
      ['Lay-up', 'Cap plies', 15],
      ['Process', 'Cure', { value: 120, unit: '°C' }],
      ['Fixture', 'Clamp jaws', 'square'],
      ['Surface', 'Finish', 'peel ply, clear coat'],
    ],
    test: {
      fixture: 'Root clamp, square jaws',
      method: 'Tree of straps, jack',
      cost: 6800,
      title: 'Ladder to ultimate load',
      plan: planWith('cellHired', 'wireHired', [rootStrain]),
      file: 'hanger-arm-a.csv',
      end: 'fixture gave way',
      judgement: {
        validity: 'valid-with-remarks',
        cause: 'fixture',
        place: 'Root clamp, lower jaw',
        mode: 'Clamp insert sheared',
        note: 'The arm itself shows no damage; what it carried is a lower bound.',
      },
    },
  },
  {
    label: 'B',
    changed: 'caps 3.75 → 3.0 mm, webs 2.0 → 2.5 mm, clamp jaws radiused',
    why: 'Clamp insert sheared in the test of A; the arm was over its mass target',
    mass: 3.21,
    properties: { ...arm, capThickness: mm(3), webThickness: mm(2.5) },
    facts: [
      ['Lay-up', 'Cap plies', 12],
      ['Process', 'Cure', { value: 120, unit: '°C' }],
      ['Fixture', 'Clamp jaws', 'radiused 4 mm'],
      ['Surface', 'Finish', 'peel ply, clear coat'],
    ],
    test: {
      fixture: 'Root clamp, radiused jaws',
      method: 'Tree of straps, jack',
      cost: 7200,
      answers: {
        'Clamped roots pull on their inserts': { answer: 'applied', reason: 'Jaws radiused, root free to turn' },
        'A dial gauge on the floor reads the floor': { answer: 'applied', reason: 'Second gauge on the frame' },
        'Straps creep before they carry': {
          answer: 'risk-accepted',
          reason: 'Mara Lindqvist: the jack holds, creep is corrected',
        },
      },
      title: 'Ladder to ultimate load, new clamp',
      plan: planWith('cell', 'wire', [rootStrain, frame]),
      file: 'hanger-arm-b.csv',
      end: 'ladder done',
      /** A second logger, its clock set by what both recorded; its twin of the root gauge is watched. */
      joined: {
        file: 'hanger-arm-b-fast.csv',
        clockOffset: 4,
        twin: { of: 'strainRoot', column: 'DMS root twin [µε]', tolerance: 30e-6 },
      },
      judgement: {
        validity: 'valid',
        cause: 'none',
        place: '',
        mode: '',
        note: 'No sound, no visible damage at 5.6 kN.',
      },
    },
  },
] as const

/** Planned on revision B and not run yet: what the checklist and the lessons have to say is open. */
export const planned = {
  revision: 'B',
  title: 'Proof load with the season’s carriage',
  fixture: 'Root clamp on the carriage, radiused jaws',
  method: 'Tree of straps, jack',
  cost: 4100,
  inDays: 12,
  notes: 'Carriage frame rides on the floor rails: its motion is to be read as well.',
  plan: {
    ...planWith('cell', 'wire', [
      rootStrain,
      {
        ...rootStrain,
        role: 'strainTwin',
        label: 'Root cap strain, twin',
        place: 'Root cap, lower, beside',
        twin: 'strainRoot',
        sensor: 'gaugeTwin',
      },
      { ...frame, sensor: 'dialOld' as const },
    ]),
    watch: [
      { kind: 'twin', role: 'strainTwin', value: { value: 60, unit: 'µε' }, lasts: 1, action: 'hold' },
      { kind: 'line', role: 'deflection', value: percent(12), action: 'warn' },
      { kind: 'failure', role: 'load', value: percent(50), action: 'abort' },
    ],
  },
  answers: {
    'Straps creep before they carry': { answer: 'applied', reason: 'Straps pulled to 6 kN the day before' },
  } as Record<string, { answer: string; reason: string }>,
}

/** How far Jonte has come with its gauges: the bond was damp, and its insulation says so. */
export const begun: [key: string, reading?: string][] = [
  ['gauge:load:mount'],
  ['gauge:load:wire'],
  ['gauge:load:check', '492 N'],
  ['gauge:load:zero', '-41'],
  ['gauge:deflection:mount'],
  ['gauge:deflection:wire'],
  ['gauge:deflection:check', '50.1 mm'],
  ['gauge:strainRoot:surface'],
  ['gauge:strainRoot:bond'],
  ['gauge:strainRoot:wire'],
  ['gauge:strainRoot:resistance', '350.6 ohm'],
  ['gauge:strainRoot:insulation', '38 Mohm'],
]

/** What the others said of the arm before it was loaded. */
export const armPredictions = [
  {
    revision: 'A',
    quantity: 'deflectionAtDesign',
    entered: mm(71),
    band: percent(12),
    method: 'simulation',
    source: 'Shell model, clamped ideally',
    place: 'Tip',
    mode: '',
  },
  {
    revision: 'A',
    quantity: 'maxLoad',
    entered: kN(7.9),
    band: percent(10),
    method: 'simulation',
    source: 'Shell model, clamped ideally',
    place: 'Lower cap, 0.2 m from the root',
    mode: 'Cap wrinkles',
  },
  {
    revision: 'B',
    quantity: 'deflectionAtDesign',
    entered: mm(84),
    band: percent(6),
    method: 'simulation',
    source: 'Shell model, measured clamp',
    place: 'Tip',
    mode: '',
  },
  {
    revision: 'B',
    quantity: 'loadDeflection',
    method: 'simulation',
    source: 'Shell model, measured clamp',
    curve: { x: [0, 0.0205, 0.0418, 0.0632, 0.0851, 0.1078, 0.1312], y: [0, 800, 1600, 2400, 3200, 4000, 4800] },
  },
]

/** What the simulated articles really do; the files in data/ are made of this. */
export const truths = {
  A: {
    compliance: 2.395e-5,
    articleStrength: 8300,
    fixtureStrength: 4360,
    creepShare: 0.012,
    creepTime: 8,
    setAtStrength: 0.0035,
    loadOffset: 38,
    deflectionOffset: 0.0061,
    loadNoise: 3,
    deflectionNoise: 6e-5,
    strainNoise: 1.5e-6,
    seed: 20261,
  },
  B: {
    compliance: 2.763e-5,
    articleStrength: 8700,
    fixtureStrength: Infinity,
    creepShare: 0.012,
    creepTime: 8,
    setAtStrength: 0.00275,
    loadOffset: -21,
    deflectionOffset: 0.0023,
    loadNoise: 2.5,
    deflectionNoise: 4e-5,
    strainNoise: 1.5e-6,
    seed: 20262,
  },
}
