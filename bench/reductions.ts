/* A reduction of 3.6 million samples of each kind of test, as the Reduce stage's worker does it: results, tables and the figure that is seen. Medians of five. */
import { reduceRecord, type StoredRecord } from '../core/src/index'

const N = Number(process.env['SAMPLES'] ?? 3_600_000)
const RATE = 1000
const of = (make: (i: number) => number): Float64Array => Float64Array.from({ length: N }, (_, i) => make(i))
const noise = (i: number) => ((i * 7919) % 1000) / 1000 - 0.5
const t = of(i => i / RATE)
const end = N / RATE

const CASES: [family: string, columns: Record<string, Float64Array>, settings: Record<string, unknown>, figure: string][] = [
  ['pull', { force: of(i => (i < 0.9 * N ? (40_000 * i) / N + noise(i) : 100)), displacement: of(i => (0.3 * i) / N) }, { referenceStrength: 40_000, zeroStart: [0, 1] }, 'forceStretch'],
  ['static', { load: of(i => 1000 * Math.floor((8 * i) / N) + noise(i)), deflection: of(i => 0.01 * Math.floor((8 * i) / N) + 1e-5 * noise(i)) }, { zeroStart: [0, 0.05 * end], designLoad: 4000, minHold: 20, holdTolerance: 5 }, 'loadDeflection'],
  ['burst', { pressure: of(i => (i < 0.97 * N ? 25_000 * Math.floor((5 * i) / N) + noise(i) : 0)), temperature: of(() => 293) }, { radius: 0.2, ratedPressure: 25_000, requiredFactor: 4, holds: [[0.25 * end, 0.35 * end], [0.45 * end, 0.55 * end]], zeroStart: [0, 0.1 * end] }, 'pressureTime'],
  ['crush', { force: of(i => (i < 0.02 * N ? (35_000 * i) / (0.02 * N) : i < 0.85 * N ? 25_000 + 500 * noise(i) : 25_000 * Math.exp((8 * (i - 0.85 * N)) / N))), displacement: of(i => (0.2 * i) / N) }, { linearMass: 1.2, zeroStart: [0, 0.01] }, 'forceDisplacement'],
  ['drop', { acceleration: of(i => (i > 0.5 * N && i < 0.5 * N + 90 ? 65 : 0) + 0.1 * noise(i)) }, { cfc: 60, impactVelocity: 4.5, zeroStart: [0, 0.4 * end] }, 'pulse'],
  ['descent', { altitude: of(i => 20_000 - (5 * i) / RATE), riserForce: of(i => 330 + 40 * Math.sin(i / 900)) }, { mass: 34, referenceArea: 28, temperature: 288, pressure: 101_325, steadyWindow: [0.3 * end, 0.9 * end], stretchTime: 3, fullTime: 4 }, 'altitude'],
]

const median = (v: number[]): number => v.toSorted((a, b) => a - b)[v.length >> 1]!
console.log(`| reduction of ${(N / 1e6).toFixed(2)} M samples, with its figure | median of five | aim |\n|---|---|---|`)
for (const [family, columns, settings, figure] of CASES) {
  const record: StoredRecord = { columns: { t, ...columns }, units: {}, labels: {}, hasClock: true, name: '' }
  const times = Array.from({ length: 5 }, () => {
    const begun = performance.now()
    reduceRecord(family, record, settings, { plan: null, view: null, sensors: {} }, [figure])
    return performance.now() - begun
  })
  console.log(`| ${family} | ${median(times).toFixed(0)} ms | under 300 ms |`)
}
