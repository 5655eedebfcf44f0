/*
 * A reduction of 3.6 million samples of each kind of test, as the Reduce stage's worker does it: results, tables and
 * the figure that is seen. Medians of five.
 */
import { reduceRecord, type StoredRecord } from '../core/src/index'

const N = Number(process.env['SAMPLES'] ?? 3_600_000)
const RATE = 1000
const of = (make: (i: number) => number): Float64Array => Float64Array.from({ length: N }, (_, i) => make(i))
const noise = (i: number) => ((i * 7919) % 1000) / 1000 - 0.5
const t = of(i => i / RATE)
const end = N / RATE

const CASES: [
  family: string,
  columns: Record<string, Float64Array>,
  settings: Record<string, unknown>,
  figure: string,
][] = [
  [
    'pull',
    { force: of(i => (i < 0.9 * N ? (40_000 * i) / N + noise(i) : 100)), displacement: of(i => (0.3 * i) / N) },
    { referenceStrength: 40_000, zeroStart: [0, 1] },
    'forceStretch',
  ],
  [
    'static',
    {
      load: of(i => 1000 * Math.floor((8 * i) / N) + noise(i)),
      deflection: of(i => 0.01 * Math.floor((8 * i) / N) + 1e-5 * noise(i)),
    },
    { zeroStart: [0, 0.05 * end], designLoad: 4000, minHold: 20, holdTolerance: 5 },
    'loadDeflection',
  ],
  [
    'burst',
    { pressure: of(i => (i < 0.97 * N ? 25_000 * Math.floor((5 * i) / N) + noise(i) : 0)), temperature: of(() => 293) },
    {
      radius: 0.2,
      ratedPressure: 25_000,
      requiredFactor: 4,
      holds: [
        [0.25 * end, 0.35 * end],
        [0.45 * end, 0.55 * end],
      ],
      zeroStart: [0, 0.1 * end],
    },
    'pressureTime',
  ],
  [
    'crush',
    {
      force: of(i =>
        i < 0.02 * N
          ? (35_000 * i) / (0.02 * N)
          : i < 0.85 * N
            ? 25_000 + 500 * noise(i)
            : 25_000 * Math.exp((8 * (i - 0.85 * N)) / N),
      ),
      displacement: of(i => (0.2 * i) / N),
    },
    { linearMass: 1.2, zeroStart: [0, 0.01] },
    'forceDisplacement',
  ],
  [
    'drop',
    { acceleration: of(i => (i > 0.5 * N && i < 0.5 * N + 90 ? 65 : 0) + 0.1 * noise(i)) },
    { cfc: 60, impactVelocity: 4.5, zeroStart: [0, 0.4 * end] },
    'pulse',
  ],
  [
    'descent',
    { altitude: of(i => 20_000 - (5 * i) / RATE), riserForce: of(i => 330 + 40 * Math.sin(i / 900)) },
    {
      mass: 34,
      referenceArea: 28,
      temperature: 288,
      pressure: 101_325,
      steadyWindow: [0.3 * end, 0.9 * end],
      stretchTime: 3,
      fullTime: 4,
    },
    'altitude',
  ],
  [
    'spin',
    {
      setpoint: of(i => 0.2 * Math.floor((5 * i) / N) + 1e-4 * noise(i)),
      thrust: of(i => 80 * (0.2 * Math.floor((5 * i) / N)) ** 2 + 0.1 * noise(i)),
      ...Object.fromEntries(
        ['forceA', 'forceB', 'voltage', 'current', 'speed'].map((r, k) => [
          r,
          of(i => 10 + k + Math.floor((5 * i) / N) + 0.01 * noise(i)),
        ]),
      ),
    },
    {
      armA: 0.1,
      armB: 0.1,
      settle: 5,
      minHold: 30,
      holdTolerance: 0.01,
      limits: { current: 40 },
      nextSetpoint: 1,
      zeroStart: [0, 10],
    },
    'thrustSetpoint',
  ],
  [
    'thermal',
    { temperature: of(i => 360 - 60 * Math.exp((-4 * i) / N) + 0.05 * noise(i)), power: of(i => 300 + noise(i)) },
    { window: [0.01 * end, end], ambient: 295, limit: 358 },
    'approach',
  ],
  [
    'torque',
    {
      torque: of(i => (i < 0.9 * N ? (2000 * i) / N + 0.5 * noise(i) : 50)),
      twist: of(i => (0.1 * i) / N + Math.max(0, i / N - 0.7) ** 2),
    },
    { offset: 0.004, requiredTorque: 1000, zeroStart: [0, 10] },
    'torqueTwist',
  ],
  [
    'vibration',
    { drive: of(i => noise(i)), response: of(i => 2 * noise(i + 3) + noise(i)), middle: of(i => noise(i + 5)) },
    { nperseg: 8192, band: [10, 400] },
    'response',
  ],
  [
    'buckling',
    {
      force: of(i => (i < 0.95 * N ? (300_000 * i) / (0.95 * N) + 20 * noise(i) : 20_000)),
      w1: of(i => (1e-4 * i) / (1.05 * N - i)),
      w2: of(i => (2e-4 * i) / (1.05 * N - i)),
    },
    { radius: 0.45, thickness: 0.001, modulus: 205e9, poisson: 0.3, zeroStart: [0, 2] },
    'growth',
  ],
  [
    'bar',
    {
      incident: of(
        i => (i > 0.2 * N && i < 0.35 * N ? -1e-3 : i > 0.6 * N && i < 0.75 * N ? 6e-4 : 0) + 1e-6 * noise(i),
      ),
      transmitted: of(i => (i > 0.6 * N && i < 0.75 * N ? -4e-4 : 0) + 1e-6 * noise(i)),
    },
    {
      barModulus: 200e9,
      barDensity: 7850,
      barArea: 2e-4,
      specimenArea: 5e-5,
      specimenLength: 0.006,
      gaugeToSpecimenIncident: 0.2 * end * Math.sqrt(200e9 / 7850),
      gaugeToSpecimenTransmitted: 0.2 * end * Math.sqrt(200e9 / 7850),
      incidentWindow: [0.19 * end, 0.36 * end],
      reflectedWindow: [0.59 * end, 0.76 * end],
      transmittedWindow: [0.59 * end, 0.76 * end],
    },
    'stressStrain',
  ],
]

const median = (v: number[]): number => v.toSorted((a, b) => a - b)[v.length >> 1]!
console.log(`| reduction of ${(N / 1e6).toFixed(2)} M samples, with its figure | median of five | aim |\n|---|---|---|`)
for (const [family, columns, settings, figure] of CASES) {
  const record: StoredRecord = {
    columns: { t, ...columns },
    units: Object.fromEntries(Object.keys(columns).map(r => [r, family === 'vibration' ? 'm/s²' : 'm'])),
    labels: {},
    hasClock: true,
    name: '',
  }
  const times = Array.from({ length: 5 }, () => {
    const begun = performance.now()
    reduceRecord(family, record, settings, { plan: null, view: null, sensors: {} }, [figure])
    return performance.now() - begun
  })
  console.log(`| ${family} | ${median(times).toFixed(0)} ms | under 300 ms |`)
}
