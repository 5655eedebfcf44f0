import { describe, expect, it } from 'vitest'
import { trialsOfHistory } from '../compare/trialsOfHistory'
import { families, runCalc, runReduce } from '../index'
import { reduceTable } from '../family/reduceTable'
import { parseSettings } from '../method/settings'
import { exponentialApproach } from '../statistics/exponentialApproach'
import { SeededRandom } from '../statistics/random'
import { dispersed, firstMode, speedAt } from './bar/dispersion'
import { barWaves } from './bar/specimen'
import { admittance } from './transducer/circuit'
import { pistonAt } from './transducer/specimen'

/*
 * What shells, drives, shafts, cabinets, bars, probes and coupons are reduced to, by hand, by formulas and by what was
 * put in.
 */

type Columns = Record<string, ArrayLike<number>>
const UNITS: Record<string, string> = {
  force: 'N',
  moment: 'N·m',
  torque: 'N·m',
  twist: 'rad',
  incident: '1',
  transmitted: '1',
}

function reduced(
  family: string,
  t: ArrayLike<number>,
  columns: Columns,
  settings: object,
  units: Record<string, string> = UNITS,
) {
  const f = families[family]!
  const channels = Object.fromEntries(Object.entries(columns).map(([r, y]) => [r, Float64Array.from(y)]))
  return reduceTable(f, { t: Float64Array.from(t), channels, units }, parseSettings(f.settings, settings), {
    sensors: {},
  })
}
const ramp = (n: number, f: (i: number) => number) => Float64Array.from({ length: n }, (_, i) => f(i))
const value = (r: ReturnType<typeof reduced>, key: string) => r.results[key]!.value
const codes = (r: ReturnType<typeof reduced>) => r.warnings.map(w => w.code)

describe('spin', () => {
  const HOLD = 200
  /** Four held set-points at 100 samples a second: thrust, torque and current go with the square of the set-point. */
  const run = (over: Partial<Record<string, (u: number, t: number) => number>> = {}, next = 1) => {
    const steps = [0, 0.25, 0.5, 0.75]
    const t = ramp(steps.length * HOLD, i => i / 100)
    const at = (f: (u: number, t: number) => number) =>
      Float64Array.from(t, (v, i) => f(steps[Math.floor(i / HOLD)]!, v))
    const usual: Record<string, (u: number, t: number) => number> = {
      setpoint: u => u,
      thrust: u => 80 * u * u,
      forceA: u => 20 * u * u,
      forceB: u => 10 * u * u,
      voltage: u => 50 - 2 * u,
      current: u => 60 * u * u,
      speed: u => 200 * u,
    }
    return reduced('spin', t, Object.fromEntries(Object.entries({ ...usual, ...over }).map(([k, f]) => [k, at(f!)])), {
      armA: 0.1,
      armB: 0.2,
      settle: 0.5,
      minHold: 1,
      holdTolerance: 0.01,
      limits: { current: 50 },
      nextSetpoint: next,
    })
  }

  it('takes torque from both arms and power from every sample, by hand', () => {
    const { tables } = run()
    const at = (column: string, i: number) => tables['points']!.columns[column]![i] as number
    expect(tables['points']!.columns['setpoint']).toHaveLength(3)
    expect(at('torque', 1)).toBeCloseTo((20 * 0.1 + 10 * 0.2) * 0.25, 12)
    expect(at('electricalPower', 2)).toBeCloseTo(48.5 * 33.75, 9)
    expect(at('efficiency', 2)).toBeCloseTo((4 * 0.5625 * 150) / (48.5 * 33.75), 12)
  })

  it('sees a limit coming before the set-point is commanded', () => {
    const { tables, warnings } = run()
    expect(tables['projection']!.columns['predicted']![0]).toBeCloseTo(60, 9)
    expect(warnings.map(w => w.code)).toEqual(['limit-projected'])
  })

  it('reads what comes once a turn though the speed wanders and other things shake', () => {
    let angle = 0
    let last = 0
    const vibration = (u: number, t: number) => {
      angle += (t - last) * (40 + 2 * Math.sin(3 * t)) * (u > 0 ? 1 : 0)
      last = t
      return u === 0 ? 0 : 3 * Math.cos(angle + 0.7) + 2 * Math.sin(2.6 * angle)
    }
    const { tables } = run({ speed: (u, t) => (u > 0 ? 40 + 2 * Math.sin(3 * t) : 0), vibration })
    const once = tables['points']!.columns['oncePerTurn'] as number[]
    for (const a of once) expect(a).toBeNear(3, 0.02)
  })
})

describe('thermal', () => {
  it('finds an exponential approach to the last digits, from a third of it', () => {
    const t = ramp(300, i => i)
    const fit = exponentialApproach(
      t,
      t.map(v => 350 - 55 * Math.exp(-v / 480)),
    )
    expect([fit.steady, fit.start, fit.timeConstant]).toEqual([
      expect.closeTo(350, 7),
      expect.closeTo(295, 7),
      expect.closeTo(480, 5),
    ])
  })

  it('says how open the steady temperature still is while it climbs, and warns of a short window', () => {
    const random = new SeededRandom(4)
    const t = ramp(2400, i => i)
    const temperature = t.map(v => 350 - 55 * Math.exp(-v / 480) + 0.1 * random.normal())
    const [early, late] = [300, 2399].map(end =>
      reduced('thermal', t, { temperature, power: t.map(() => 100) }, { window: [0, end], ambient: 295, limit: 340 }),
    )
    expect(codes(early!)).toContain('short-window')
    expect(codes(late!)).toEqual(['limit-exceeded'])
    const half = (r: ReturnType<typeof reduced>) =>
      r.results['steadyTemperature']!.u! * r.results['steadyTemperature']!.k!
    expect(half(early!)).toBeGreaterThan(20 * half(late!))
    expect(Math.abs(value(early!, 'steadyTemperature')! - 350)).toBeLessThan(2 * half(early!))
    expect(value(late!, 'allowedPower')).toBeNear((100 * 45) / 55, 0.0001)
  })
})

describe('torque', () => {
  it('yields where a bilinear shaft crosses its line moved by the offset', () => {
    // Elastic to 100 N·m at 1000 N·m/rad, then 100 N·m/rad: crossing at 1000(x − .02) = 100 + 100(x − .1).
    const twist = ramp(601, i => i / 2000)
    const r = reduced(
      'torque',
      [],
      { twist, torque: twist.map(x => (x <= 0.1 ? 1000 * x : 100 + 100 * (x - 0.1))) },
      { offset: 0.02, requiredTorque: 80, outcome: 'fixture' },
    )
    expect(value(r, 'stiffness')).toBeCloseTo(1000, 6)
    expect(value(r, 'yieldTorque')).toBeCloseTo(1000 * (110 / 900 - 0.02), 6)
    expect(r.results['ultimateTorque']!.bound).toBe('atLeast')
  })
})

describe('vibration', () => {
  /** A base-driven oscillator by central differences, in small steps. */
  function shaken(f: number, z: number, seconds: number, rate: number, gain = 1) {
    const random = new SeededRandom(9)
    const [w, steps] = [2 * Math.PI * f, 16]
    const dt = 1 / rate / steps
    let [x, v] = [0, 0]
    const drive: number[] = []
    const response: number[] = []
    for (let i = 0; i < seconds * rate; i++) {
      const a = random.normal()
      for (let k = 0; k < steps; k++) {
        v += dt * (-a - 2 * z * w * v - w * w * x)
        x += dt * v
      }
      drive.push(a)
      response.push(a + gain * (-a - 2 * z * w * v - w * w * x))
    }
    return { t: ramp(drive.length, i => i / rate), drive, response }
  }
  const units = { drive: 'm/s²', a: 'm/s²', b: 'm/s²' }

  it('finds the mode and the damping that were put in, and their change against before', () => {
    const { t, drive, response } = shaken(40, 0.03, 160, 400)
    const r = reduced(
      'vibration',
      t,
      { drive, a: response },
      { nperseg: 2048, band: [10, 120], minFrequency: 35, before: [{ frequency: 46, damping: 0.02 }] },
      units,
    )
    expect(value(r, 'firstFrequency')).toBeNear(40, 0.0005)
    expect(value(r, 'firstDamping')).toBeGreaterThan(0.026)
    expect(value(r, 'firstDamping')).toBeLessThan(0.036)
    expect(value(r, 'largestShift')).toBeCloseTo(0.13, 2)
    expect(r.tables['comparison']!.columns['verdict']).toEqual(['changed'])
  })

  it('knows a model’s shape by MAC, and tells it from one that it is not', () => {
    const { t, drive, response } = shaken(40, 0.03, 60, 400)
    const half = drive.map((a, i) => a + 0.5 * (response[i]! - a))
    const r = reduced(
      'vibration',
      t,
      { drive, a: response, b: half },
      {
        nperseg: 1024,
        band: [20, 80],
        prominence: 0.5,
        shapes: [{ values: [1, 0.5] }, { values: [1, -2] }],
        points: [
          { channel: 'a', x: 1, y: 0 },
          { channel: 'b', x: 0.5, y: 0 },
        ],
      },
      units,
    )
    const mac = r.tables['mac']!.columns['mac'] as number[]
    expect(mac[0]).toBeGreaterThan(0.99)
    expect(mac[1]).toBeLessThan(0.02)
  })

  it('answers plainly to a sweep without resonance and to segments that blur it', () => {
    const random = new SeededRandom(3)
    const t = ramp(8000, i => i / 400)
    const drive = t.map(() => random.normal())
    expect(
      codes(
        reduced(
          'vibration',
          t,
          { drive, a: drive.map(v => 0.9 * v) },
          { nperseg: 256, band: [10, 150], prominence: 1 },
          units,
        ),
      ),
    ).toContain('no-mode')
    const sharp = shaken(40, 0.004, 20, 400)
    expect(
      codes(
        reduced(
          'vibration',
          sharp.t,
          { drive: sharp.drive, a: sharp.response },
          { nperseg: 256, band: [10, 120], prominence: 0.5 },
          units,
        ),
      ),
    ).toContain('low-resolution')
    expect(() =>
      reduced('vibration', t, { drive, a: drive }, { nperseg: 16_384, band: [10, 150] }, units),
    ).toThrowError(/longer than the record/)
  })
})

describe('buckling', () => {
  const shell = { radius: 0.45, thickness: 0.001, modulus: 205e9, poisson: 0.3 }
  const critical = 400e3
  const n = 400
  const force = ramp(n, i => (340e3 * i) / (n - 1))
  const grown = (dent: number) => force.map(P => (dent * P) / (critical - P))
  const t = ramp(n, i => i / 10)

  it('foretells the critical load from the growth of dents, exactly where they grow as theory says', () => {
    const r = reduced('buckling', t, { force, w: grown(1e-4) }, { ...shell, designFactor: 0.5 }, { ...UNITS, w: 'm' })
    expect(value(r, 'southwellForce')).toBeCloseTo(critical, 3)
    expect(value(r, 'southwellR2')).toBeCloseTo(1, 9)
    // Three times the median slope between a fifth and a half: dδ/dP goes with 1/(Pc − P)².
    const usual = 1 / (critical - 0.35 * 340e3) ** 2
    expect(Math.abs(value(r, 'onsetForce')! - (critical - Math.sqrt(1 / (3 * usual))))).toBeLessThan(2 * (340e3 / 50))
    expect(value(r, 'classicalForce')).toBeCloseTo(
      0.605227 * (1 / (2 * Math.PI * 0.45)) * 2 * Math.PI * 0.45 * 205e9 * 2 * Math.PI * 0.001 ** 2,
      -2,
    )
  })

  it('counts the waves around a ring that can tell them, and says when it cannot', () => {
    const ring = (gauges: number, waves: number) => {
      const angles = Array.from({ length: gauges }, (_, i) => (2 * Math.PI * i) / gauges)
      const dents = Object.fromEntries(angles.map((a, i) => [`g${i}`, grown(1e-4 * Math.cos(waves * a - 0.4))]))
      return reduced(
        'buckling',
        t,
        { force, ...dents },
        { ...shell, ring: angles.map((angle, i) => ({ channel: `g${i}`, angle })) },
        { ...UNITS, ...Object.fromEntries(Object.keys(dents).map(k => [k, 'm'])) },
      )
    }
    const told = ring(15, 6)
    expect([value(told, 'waveNumber'), codes(told)]).toEqual([6, []])
    expect(codes(ring(4, 6))).toContain('ring-too-few')
    expect(codes(ring(13, 6))).toContain('ring-too-few')
    expect(value(ring(13, 6), 'waveNumber')).toBeNull()
  })
})

describe('bar', () => {
  const bars = {
    barModulus: 200e9,
    barDensity: 7850,
    barArea: Math.PI * 0.008 ** 2,
    specimenArea: Math.PI * 0.004 ** 2,
    specimenLength: 0.006,
    gaugeToSpecimenIncident: 0.9,
    gaugeToSpecimenTransmitted: 0.7,
  }
  const c = Math.sqrt(200e9 / 7850)
  const truth = {
    velocity: 12,
    strikerLength: 0.4,
    c,
    EA: bars.barModulus * bars.barArea,
    incidentGauge: 0.9,
    transmittedGauge: 0.7,
    length: 0.006,
    area: bars.specimenArea,
    modulus: 60e9,
    yield: 400e6,
    hardening: 0.7e9,
  }
  const t = ramp(2200, i => -1e-4 + i * 0.5e-6)
  const waves = barWaves(truth)
  const y = { incident: t.map(waves.incident), transmitted: t.map(waves.transmitted) }
  const from = (start: number): [number, number] => [start, start + 1.9e-4]
  const settings = {
    ...bars,
    incidentWindow: from(-1e-5),
    reflectedWindow: from(-1e-5 + 1.8 / c),
    transmittedWindow: from(-1e-5 + 1.6 / c),
  }

  it('gives back the stress and the strain that the specimen had, by one wave and by three', () => {
    const [one, three] = (['one-wave', 'three-wave'] as const).map(school =>
      reduced('bar', t, y, { ...settings, school }),
    )
    for (const r of [one!, three!]) {
      const strain = value(r, 'strainAtPeak')!
      expect(value(r, 'peakStress')! / (truth.yield + truth.hardening * strain)).toBeCloseTo(1, r === one ? 4 : 2)
      expect(value(r, 'equilibrium')).toBeLessThan(0.02)
    }
    // Striker's speed over the specimen's length, less what the middle of its stress takes off it.
    const middle = (truth.yield + value(one!, 'peakStress')!) / 2
    expect(value(one!, 'meanRate')! / ((12 - (2 * middle * bars.specimenArea * c) / truth.EA) / 0.006)).toBeCloseTo(
      1,
      1,
    )
  })

  it('says that windows overlap, and that windows that do not belong together have nothing in common', () => {
    expect(codes(reduced('bar', t, y, { ...settings, incidentWindow: [-1e-5, 3.6e-4] }))).toContain('waves-overlap')
    expect(() => reduced('bar', t, y, { ...settings, reflectedWindow: from(7e-4) })).toThrowError(/nothing in common/)
  })

  it('knows the first longitudinal mode: Rayleigh’s correction for long waves, surface waves for short ones', () => {
    for (const share of [0.02, 0.04])
      expect((1 - speedAt(share, 0.29)) / (0.29 ** 2 * Math.PI ** 2 * share ** 2)).toBeNear(1, 0.02)
    // Rayleigh's surface wave at ν 0.29: 0.9258 of the shear speed √(1/(2(1 + ν))).
    expect(firstMode(0.29)(5)).toBeCloseTo(0.9258 / Math.sqrt(2 * 1.29), 2)
  })

  it('carries a wave forward and back without changing it', () => {
    const pulse = t.map(v => Math.exp(-(((v - 2e-4) / 2e-5) ** 2)))
    const o = { interval: 0.5e-6, c0: c, radius: 0.008, poisson: 0.29 }
    const there = dispersed(t, pulse, [0, 6e-4], { ...o, distance: 1.5 })
    const back = dispersed(t, there, [0, 6e-4], { ...o, distance: -1.5 })
    const most = (a: Float64Array, b: Float64Array) => a.reduce((m, v, i) => Math.max(m, Math.abs(v - b[i]!)), 0)
    expect(most(there, pulse)).toBeGreaterThan(0.005)
    expect(most(back, pulse)).toBeLessThan(1e-3)
  })
})

describe('transducer', () => {
  const circuit = { R1: 240, L1: 0.0198, C1: 0.8e-9, C0: 2.4e-9 }
  const frequency = [
    ...ramp(290, i => 1000 + 100 * i),
    ...ramp(251, i => 30_000 + 100 * i),
    ...ramp(25, i => 56_000 + 1000 * i),
  ]
  const sweepOf = (c: typeof circuit) => {
    const z = frequency.map(f => {
      const y = admittance(c, 2 * Math.PI * f)
      const s = y.re ** 2 + y.im ** 2
      return { r: y.re / s, x: -y.im / s }
    })
    return { frequency, resistance: z.map(v => v.r), reactance: z.map(v => v.x) }
  }
  const units = { frequency: 'Hz', resistance: 'ohm', reactance: 'ohm' }

  it('fits the circuit that made the sweep, and its coupling is that of the capacitances', () => {
    const r = reduced('transducer', [], sweepOf(circuit), {}, units)
    for (const [key, want] of Object.entries(circuit)) expect(value(r, key)! / want).toBeCloseTo(1, 5)
    expect(value(r, 'seriesFrequency')).toBeCloseTo(1 / (2 * Math.PI * Math.sqrt(circuit.L1 * circuit.C1)), -2)
    expect(value(r, 'coupling')).toBeCloseTo(Math.sqrt(circuit.C1 / (circuit.C0 + circuit.C1)), 2)
  })

  it.each([
    ['cable', { ...circuit, C0: 3.6e-9 }],
    ['backing', { ...circuit, R1: 410 }],
    ['depoled', { R1: 240 / 0.64, L1: 0.0198 / 0.64, C1: 0.8e-9 * 0.64, C0: 2.4e-9 }],
  ])('ranks what explains a sweep first: the %s', (word, changed) => {
    const r = reduced('transducer', [], sweepOf(changed), { model: circuit }, units)
    expect(r.tables['explanations']!.columns['explanation']![0]).toContain(word)
    expect(r.tables['explanations']!.columns['weight']![0]).toBeGreaterThan(0.99)
    expect(r.tables['explanations']!.columns['fits']).toEqual(['yes', 'no', 'no', 'no'])
  })

  it('says that none explains a sweep whose fault is not on the list, and which it does not tell apart', () => {
    const warned = (c: typeof circuit, share: number, model = circuit) => {
      const random = new SeededRandom(3)
      const { frequency: f, resistance, reactance } = sweepOf(c)
      const off = resistance.map(() => [1 + share * random.normal(), share * random.normal()] as const)
      const rows = {
        frequency: f,
        resistance: off.map(([a, b], i) => a * resistance[i]! - b * reactance[i]!),
        reactance: off.map(([a, b], i) => a * reactance[i]! + b * resistance[i]!),
      }
      const r = reduced('transducer', [], rows, { model }, units)
      const codes = r.warnings.map(w => w.code).filter(c => c === 'none-fits' || c === 'not-separated')
      return [codes, r.tables['explanations']!.columns['explanation']![0]]
    }
    // A resonance elsewhere: mass on the element.
    expect(warned({ ...circuit, L1: 0.026 }, 0.002)[0]).toEqual(['none-fits'])
    expect(warned({ ...circuit, C0: 3.6e-9 }, 0.002)).toEqual([[], 'capacitance of the cable beside it'])
    // Nothing is wrong: a freed number explains no more than it costs.
    expect(warned(circuit, 0.002)[1]).toBe('as modelled')
    // Half a hundredth more capacitance, in rows that scatter by a tenth.
    expect(warned({ ...circuit, C0: 2.412e-9 }, 0.1)[1]).toBe('as modelled')
  })

  it('says that a sweep holds no resonance', () => {
    const below = frequency.filter(f => f < 30_000)
    const all = sweepOf(circuit)
    const cut = (y: number[]) => y.slice(0, below.length)
    const r = reduced(
      'transducer',
      [],
      { frequency: below, resistance: cut(all.resistance), reactance: cut(all.reactance) },
      {},
      units,
    )
    expect(r.warnings.map(w => w.code)).toContain('no-resonance')
    for (const key of ['seriesFrequency', 'coupling', 'C0', 'staticCapacitance']) expect(value(r, key)).toBeNull()
  })

  it('reads a piston’s beam: half power at 1.616, side lobe at −17.6 dB', () => {
    const angle = ramp(1801, i => ((i - 900) / 10) * (Math.PI / 180))
    const [ka, half] = [12, 2.215]
    const level = angle.map(a => 20 * Math.log10(Math.max(1e-5, Math.abs(pistonAt((ka * Math.sin(a)) / half)))))
    const r = reduced('transducer', [], { angle, level }, { kind: 'beam' }, { angle: 'rad', level: 'dB' })
    expect(value(r, 'beamwidth3dB')).toBeCloseTo(2 * Math.asin(1.6163 / ka), 3)
    expect(value(r, 'maxSidelobe')).toBeNear(-17.57, 0.0005)
    // Of a large piston 20·log(ka), here within half a decibel.
    expect(Math.abs(value(r, 'directivityIndex')! - 20 * Math.log10(ka))).toBeLessThan(0.5)
  })
})

describe('coupon', () => {
  const file = (rows: string[]) => Buffer.from(['id,w,t,F,how', ...rows].join('\n'))
  const setup = (kind: string) => ({
    family: 'coupon',
    channels: {
      specimen: { column: 'id' },
      width: { column: 'w', unit: 'mm' },
      thickness: { column: 't', unit: 'mm' },
      ultimateForce: { column: 'F', unit: 'kN' },
      failure: { column: 'how' },
    },
    settings: { kind },
  })

  it('gives mean, spread and basis by hand, names the outlier and keeps it, and says what more would buy', () => {
    const r = runReduce(
      setup('tension'),
      file(['a,10,2,10.0,AGM', 'b,10,2,10.2,AGM', 'c,10,2,9.8,LGM', 'd,10,2,10.1,AGM', 'e,10,2,6.0,LIT']),
    )
    expect(r.results['strengthMean']!.value).toBeCloseTo(461e6, 3)
    expect(r.results['basisB']!.value).toBeCloseTo(461e6 - 3.4066 * r.results['strengthSd']!.value!, -4)
    expect(r.tables['specimens']!.columns['outlier']).toEqual([0, 0, 0, 0, 1])
    expect(r.tables['failures']!.columns['specimens']).toEqual([3, 1, 1])
    const worth = r.tables['worth']!.columns
    expect(worth['specimens']!.slice(0, 2)).toEqual([5, 6])
    expect((worth['basisB'] as number[])[1]).toBeGreaterThan((worth['basisB'] as number[])[0]!)
  })

  it('answers plainly to one specimen', () => {
    const r = runReduce(setup('compression'), file(['a,10,2,10.0,x']))
    expect([r.results['basisB']!.value, r.results['strengthSd']!.value, r.warnings.map(w => w.code)]).toEqual([
      null,
      null,
      ['one-specimen'],
    ])
  })
})

describe('trials', () => {
  const factors = ['A', 'B', 'C', 'D'].map(name => ({ name }))
  const half = ['−−−−', '+−−+', '−+−+', '++−−', '−−++', '+−+−', '−++−', '++++']
  const response = (levels: string) => {
    const [a, b, , d] = [...levels].map(m => (m === '+' ? 1 : -1)) as [number, number, number, number]
    return 100 + 5 * a + 10 * b + 1 * d + 3 * a * b
  }
  const run = (next: number) =>
    runCalc({
      calc: 'trial-matrix',
      settings: { factors, trials: half.map(levels => ({ levels, response: response(levels) })), next },
    })

  it('names what a half-fraction cannot tell apart, and plans the trials that do', () => {
    const { tables, results } = run(8)
    const effects = tables['effects']!.columns
    expect(effects['effect']!.slice(0, 2)).toEqual(['B', 'A'])
    expect((effects['size'] as number[]).slice(0, 3)).toEqual([
      expect.closeTo(20, 9),
      expect.closeTo(10, 9),
      expect.closeTo(6, 9),
    ])
    expect(effects['cannotBeToldFrom']![2]).toBe('C·D')
    expect([results['told']!.value, results['toldNext']!.value]).toEqual([4, 10])
    expect(tables['aliases']!.columns['afterNext']).toEqual(['resolved', 'resolved', 'resolved'])
    // The other half: none of its runs was made before.
    expect((tables['next']!.columns['levels'] as string[]).filter(l => half.includes(l))).toEqual([])
  })

  it('says that it takes more where too few were made', () => {
    const r = runCalc({
      calc: 'trial-matrix',
      settings: { factors, trials: half.slice(0, 3).map(levels => ({ levels, response: 1 })), next: 5 },
    })
    expect(r.warnings.map(w => w.code)).toEqual(['too-few'])
    expect(() =>
      runCalc({ calc: 'trial-matrix', settings: { factors, trials: [{ levels: '+-', response: 1 }] } }),
    ).toThrowError(/each of the 4 factors/)
  })
})

describe('what goes with a probe', () => {
  it('finds the first echo of a tank and what it leaves, by hand', () => {
    const { results, warnings } = runCalc({
      calc: 'tank-plan',
      settings: {
        frequency: 40_000,
        cycles: 12,
        quality: 10,
        soundSpeed: 1500,
        aperture: 0.09,
        length: 4,
        width: 2.5,
        depth: 2,
        distance: 1,
      },
    })
    expect(results['firstEcho']!.value).toBeCloseTo((Math.sqrt(1 + 4) - 1) / 1500, 12)
    expect(results['farField']!.value).toBeCloseTo((Math.PI * 0.0081) / (4 * 0.0375), 12)
    expect(results['window']!.value).toBeCloseTo(2 / 40_000, 12)
    expect(warnings).toEqual([])
  })

  it('finds a plate’s constants as the standard defines them', () => {
    const { results } = runCalc({
      calc: 'element-properties',
      settings: {
        seriesFrequency: 985e3,
        parallelFrequency: 1.108e6,
        thickness: 2.02e-3,
        density: 7650,
        capacitance: 1.42e-9,
        area: 3.14e-4,
      },
    })
    const k = results['coupling']!.value!
    expect(k).toBeCloseTo(Math.sqrt((Math.PI / 2) * (985 / 1108) * Math.tan((Math.PI / 2) * (123 / 1108))), 9)
    expect(results['modulus']!.value! / results['stiffenedModulus']!.value!).toBeCloseTo(1 - k * k, 9)
    expect(
      results['piezoConstant']!.value! ** 2 /
        (results['stiffenedModulus']!.value! * results['permittivityClamped']!.value! * 8.8541878128e-12),
    ).toBeCloseTo(k * k, 9)
  })
})

describe('waves of a field', () => {
  const field = (places: number, waves: number) =>
    Buffer.from(
      [
        'a,h,w',
        ...[0.2, 0.4].flatMap(h =>
          Array.from({ length: places }, (_, i) => {
            const a = (360 * i) / places
            return `${a},${h},${(1000 * h * Math.cos((waves * a * Math.PI) / 180)).toFixed(6)}`
          }),
        ),
      ].join('\n'),
    )
  const setup = {
    calc: 'field-waves',
    channels: {
      angle: { column: 'a', unit: 'deg' },
      height: { column: 'h', unit: 'm' },
      displacement: { column: 'w', unit: 'µm' },
    },
    settings: {},
  }

  it('are counted ring by ring, and the ring of the largest is named', () => {
    const { results, tables } = runCalc(setup, field(24, 7))
    expect([results['waveNumber']!.value, results['atHeight']!.value, tables['rings']!.columns['places']]).toEqual([
      7,
      expect.closeTo(0.4, 9),
      [24, 24],
    ])
    expect(results['amplitude']!.value).toBeCloseTo(400e-6, 9)
  })

  it('are refused from rings of four places', () =>
    expect(() => runCalc(setup, field(4, 1))).toThrowError(/fewer tell no wave/))
})

describe('an article’s revisions as trials', () => {
  const revision = (
    id: number,
    fillet: number,
    steel: string,
    value: number | null,
    bound: 'exact' | 'atLeast' = 'exact',
  ) => ({
    id,
    label: `S${id}`,
    parentId: null,
    factors: { fillet, steel, cure: 'one' },
    result: value === null ? null : { value, bound },
  })

  it('are read where factors change between two values; a bound does not count', () => {
    const found = trialsOfHistory(
      [revision(1, 0.002, 'a', 10), revision(2, 0.003, 'a', 12), revision(3, 0.002, 'b', 15, 'atLeast')],
      (_, v) => String(v),
      si => si / 10,
    )
    expect(found).toEqual({
      factors: [
        { name: 'fillet', low: '0.002', high: '0.003' },
        { name: 'steel', low: 'a', high: 'b' },
      ],
      trials: [
        { levels: '−−', response: 1 },
        { levels: '+−', response: 1.2 },
      ],
      without: ['S3'],
    })
    expect(
      trialsOfHistory([revision(1, 1, 'a', 1), revision(2, 2, 'a', 1), revision(3, 3, 'b', 1)], String, v => v),
    ).toBeNull()
  })
})
