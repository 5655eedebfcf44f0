import { proposeFor, reduceRecord } from '@hypomet/core'
import { describe, expect, it } from 'vitest'
import { played, type Asked, type Played } from './liveRun'

/*
 * A run of each kind as the console follows it: what stands large is what was put in, and its record reduces as it is,
 * by a rig that says what it is set to and by a line that does not.
 */

const channel = (role: string, kind: string, expected?: number) => ({
  role,
  label: role,
  kind,
  ...(expected === undefined ? {} : { expected }),
})
const rungs = (targets: number[], holds: number[]) => targets.map((target, i) => ({ target, hold: holds[i]! }))
const direct = (commands: string, role: string) => ({ kind: 'direct', commands, name: role, role })

const PLANS = {
  drop: {
    loading: { kind: 'drop', mass: 418, guideLoss: 0.04, cfc: 60, deceleration: 65, restitution: 0.12 },
    rungs: rungs([0, 0.4, 1.1, 0], [2, 5, 5, 1]),
    ramp: 2,
    rate: 2000,
    channels: [channel('acceleration', 'acceleration', 80)],
  },
  bar: {
    loading: direct('velocity', 'strikerVelocity'),
    barModulus: 200e9,
    barDensity: 7850,
    barDiameter: 0.016,
    strikerLength: 0.4,
    strikerVelocity: 12,
    specimenLength: 0.006,
    specimenArea: 5e-5,
    gaugeToSpecimenIncident: 0.9,
    gaugeToSpecimenTransmitted: 0.7,
    rungs: rungs([0, 12, 0], [0.1, 0.3, 0.1]),
    ramp: 0.1,
    rate: 500_000,
    channels: [channel('incident', 'strain', 1e-3), channel('transmitted', 'strain', 1e-3)],
  },
  descent: {
    loading: direct('length', 'release'),
    mass: 34,
    referenceArea: 28,
    temperature: 288.15,
    pressure: 101_325,
    rungs: rungs([0, 300, 0], [2, 75, 2]),
    ramp: 20,
    rate: 20,
    channels: [channel('altitude', 'length', 300), channel('riserForce', 'force', 1500)],
  },
  flow: {
    loading: { kind: 'flow', testPressure: 10_000, diameter: 0.028, valves: 2 },
    rungs: rungs([0, 0.002, 0.006, 0.01, 0], [6, 6, 6, 6, 6]),
    ramp: 3,
    rate: 5,
    channels: [channel('flow', 'volumeFlow', 0.09), channel('drop', 'pressure', 10_000)],
  },
  map: {
    loading: direct('length', 'x'),
    kind: 'map',
    also: [{ name: 'y', kind: 'length' }],
    rungs: [
      [0, 0],
      [-0.02, 0.01],
      [0.02, 0.01],
      [0.02, -0.01],
      [-0.02, -0.01],
    ].map(([target, y]) => ({ target, also: [y], hold: 5 })),
    ramp: 3,
    rate: 10,
    channels: [channel('q', 'pressure', 4000)],
  },
  thermal: {
    loading: direct('power', 'power'),
    ambient: 295,
    limit: 370,
    rungs: rungs([0, 300, 0], [20, 500, 5]),
    ramp: 4,
    rate: 1,
    channels: [channel('temperature', 'temperature', 360), channel('power', 'power')],
  },
  spin: {
    loading: {
      kind: 'setpoints',
      fullSpeed: 300,
      fullThrust: 100,
      fullPower: 2000,
      supplyVoltage: 48,
      currentLimit: 60,
      rotorInertia: 0.021,
      diameter: 0.56,
      largestStep: 0.5,
    },
    armA: 0.12,
    armB: 0.12,
    rungs: rungs([0, 0.4, 0.8, 0], [8, 15, 15, 5]),
    ramp: 4,
    rate: 50,
    channels: [
      channel('setpoint', 'ratio'),
      channel('thrust', 'force', 100),
      channel('forceA', 'force', 40),
      channel('forceB', 'force', 40),
      channel('voltage', 'voltage', 48),
      channel('current', 'current', 45),
      channel('speed', 'rotation', 300),
    ],
  },
  crush: {
    loading: direct('length', 'displacement'),
    linearMass: 1.2,
    length: 0.24,
    rungs: rungs([0, 0.18, 0], [4, 1, 1]),
    ramp: 60,
    rate: 10,
    channels: [channel('force', 'force', 35_000), channel('displacement', 'length')],
  },
  vibration: {
    loading: {
      kind: 'shaker',
      breakpoints: [
        { frequency: 10, density: 1 },
        { frequency: 110, density: 1 },
      ],
      articleMass: 20,
    },
    rungs: rungs([0, 10, 0], [3, 45, 2]),
    ramp: 1,
    rate: 512,
    bandFrom: 10,
    bandTo: 100,
    channels: [channel('drive', 'acceleration', 30), channel('response', 'acceleration', 200)],
  },
  sweep: {
    loading: direct('frequency', 'frequency'),
    rungs: rungs([0, 20_000, 60_000], [1, 1, 1]),
    ramp: 40,
    rate: 20,
    channels: [channel('magnitude', 'resistance', 5000), channel('phase', 'angle', 1.6)],
  },
  beam: {
    loading: direct('angle', 'angle'),
    kind: 'beam',
    rungs: [0, -0.4, -0.3, -0.2, -0.1, 0, 0.1, 0.2, 0.3, 0.4].map(target => ({ target, hold: 4 })),
    ramp: 2,
    rate: 10,
    channels: [channel('level', 'level', 140)],
  },
}

const VIBRATION = { f1: 40, z1: 0.025 }
const reducedOf = ({ record, viewed }: Played, family: string, plan: object, more: object = {}) => {
  const proposed = { ...proposeFor(family, record, { plan, outcome: 'no-failure' }), ...more }
  const { output } = reduceRecord(family, record, proposed, { plan, view: viewed.view, sensors: {} })
  return {
    proposed,
    tables: output.tables,
    codes: output.warnings.map(w => w.code),
    of: (key: string) => output.results[key]!.value!,
  }
}
const play = (kind: keyof typeof PLANS, family: string, more: Partial<Asked> = {}) =>
  played({ family, plan: PLANS[kind], ...more })

describe('a run of each kind', { timeout: 120_000 }, () => {
  it.each([false, true])('drop: one piece for each, reduced as it comes; by a line: %s', async byStream => {
    const truth = { plateau: 65, restitution: 0.12, guideLoss: 0.04, ringing: 0 }
    const run = await play('drop', 'drop', { truth, byStream })
    const drops = run.events.filter(e => e.kind === 'drop')
    expect(drops.map(e => e.value)).toEqual([0.4, 1.1])
    expect(run.events.filter(e => e.kind === 'trigger missed' || e.kind === 'health')).toEqual([])
    expect(run.figures['plateau']!.value! / 65).toBeNear(1, 0.04)
    expect(run.figures['deltaV']!.value! / run.figures['deltaV']!.predicted!).toBeNear(1, 0.05)
    expect(run.stands).toEqual(expect.arrayContaining(['Armed', 'Drop 1 recorded', 'Drop 2 recorded']))
    // Three seconds of each, of seventeen.
    expect(run.record.columns['t']!.length).toBeLessThan(2 * 3.2 * 2000)
    const plan = PLANS.drop
    const high = reducedOf(run, 'drop', plan)
    expect(high.proposed['piece']).toBe(2)
    expect(high.of('plateau')).toBeCloseTo(run.figures['plateau']!.value!, 3)
    expect(high.codes).toContain('one-of-several')
    const low = proposeFor('drop', run.record, { plan, outcome: 'no-failure', asked: { piece: 1 } })
    expect(low['impactVelocity']).toBeCloseTo(Math.sqrt(2 * 9.80665 * 0.4 * 0.96), 6)
    expect(reducedOf(run, 'drop', plan, low).of('plateau') / 65).toBeNear(1, 0.04)
  })

  it('drop: what comes late and all at once is told of the rung that it was read on', async () => {
    const run = await play('drop', 'drop', { truth: { plateau: 65 }, pace: 150 })
    expect(run.events.filter(e => e.kind === 'drop').map(e => e.value)).toEqual([0.4, 1.1])
    expect(run.events.filter(e => e.kind === 'trigger missed')).toEqual([])
    expect(run.record.columns['t']!.length).toBeGreaterThan(2 * 2.9 * 2000)
  })

  it('bar: one shot, its three pulses, and nothing of the seconds about it', async () => {
    const run = await play('bar', 'bar', { within: 10 })
    expect(run.events.filter(e => e.kind === 'shot')).toHaveLength(1)
    const peak = 12 / 2 / Math.sqrt(200e9 / 7850)
    expect(-run.figures['incidentWindow']!.value! / peak).toBeNear(1, 0.05)
    expect(run.figures['incidentWindow']!.predicted! / -peak).toBeNear(1, 1e-6)
    expect(Math.abs(run.figures['equilibrium']!.value!)).toBeLessThan(0.1)
    expect(run.record.columns['t']!.length).toBeLessThan(0.0052 * 500_000)
    expect(reducedOf(run, 'bar', PLANS.bar).of('equilibrium')).toBeCloseTo(run.figures['equilibrium']!.value!, 6)
  })

  it.each([false, true])('descent: its phases as they come; by a line: %s', async byStream => {
    const truth = { mass: 34, full: 23, swing: 0.2, period: 4.6 }
    const run = await play('descent', 'descent', { truth, byStream })
    expect(run.stands).toEqual(['Hanging', 'Falling', 'Opening', 'Descending', 'Landed'])
    const rate = Math.sqrt((2 * 34 * 9.80665) / (1.2 * 23))
    const words = run.events.find(e => e.kind === 'phase' && e.note.startsWith('it descends'))!
    expect(words.t).toBeGreaterThan(run.events.find(e => e.note === 'lines are stretched')!.t)
    expect(reducedOf(run, 'descent', PLANS.descent).of('descentRate') / rate).toBeNear(1, 0.02)
    expect(run.figures['peakOpeningForce']!.value).toBeGreaterThan(34 * 9.80665)
  })

  it.each([false, true])('flow: at the reference, steady or not; by a line: %s', async byStream => {
    const run = await play('flow', 'flow', { truth: { leak: 1e-3, drop: 10_300 }, byStream })
    const { tables, codes } = reducedOf(run, 'flow', PLANS.flow)
    expect(tables['curve']!.columns['lift']).toEqual([0.002, 0.006, 0.01])
    expect(codes).not.toContain('no-leak-test')
    expect(run.stands).toEqual(expect.arrayContaining(['Settling', 'Steady']))
    // The bench stood at 103 % of the reference.
    expect(run.figures['drop']!.value! / 10_300).toBeNear(1, 0.01)
  })

  it.each([false, true])('flow: a probe from place to place; by a line: %s', async byStream => {
    const run = await play('map', 'flow', { byStream })
    const { of } = reducedOf(run, 'flow', PLANS.map)
    expect([of('peakX'), of('peakY')]).toEqual([0, 0])
    expect(run.figures['places']!.value).toBe(5)
    expect(run.figures['largest']!.value! / 1.2041).toBeNear(of('peakVelocity') ** 2 / 2, 0.02)
  })

  it('thermal: where it is heading from what it reads now', async () => {
    const run = await play('thermal', 'thermal', { truth: { ambient: 295, rise: 0.2, time: 150 }, within: 600 })
    expect(run.figures['steadyTemperature']!.value).toBeNear(355, 0.004)
    expect(run.figures['timeConstant']!.value).toBeNear(150, 0.06)
    // Every curve ahead goes on from the room's temperature or above it, and never from nothing.
    for (const a of run.aheads) expect(Math.min(...a.y)).toBeGreaterThan(294)
    expect(reducedOf(run, 'thermal', PLANS.thermal).of('steadyTemperature')).toBeNear(355, 0.004)
  })

  it('spin: speed, thrust and power of a set-point', async () => {
    const run = await play('spin', 'spin', { truth: { speed: 290, thrust: 100 } })
    // The last that stood on the console was the highest set-point's.
    expect(run.figures['speed']!.value! / 290).toBeLessThan(0.81)
    const { tables } = reducedOf(run, 'spin', PLANS.spin)
    expect(tables['points']!.columns['setpoint']).toHaveLength(2)
    expect((tables['points']!.columns['thrust']![1] as number) / (100 * 0.64)).toBeNear(1, 0.02)
    expect(run.events.filter(e => e.kind === 'health')).toEqual([])
  })

  it('crush: force first, and the energy that it took', async () => {
    const run = await play('crush', 'crush', { truth: { mean: 25_000, used: 0.3, ripple: 0.02 } })
    const { of } = reducedOf(run, 'crush', PLANS.crush)
    expect(run.figures['meanForce']!.value! / 25_000).toBeNear(1, 0.04)
    expect(run.figures['energy']!.value! / of('energy')).toBeNear(1, 0.06)
    expect(run.events.filter(e => e.kind === 'health').map(e => e.note)).toEqual([])
  })

  it.each(['random', 'sweep', 'dwell'] as const)('vibration, %s: level, frequency and what resonates', async drive => {
    const plan = { ...PLANS.vibration, drive, sweepFrom: 15, sweepTo: 90, dwellAt: 30 }
    const run = await played({ family: 'vibration', plan, truth: VIBRATION })
    const levels = run.figures['level']!
    expect(levels.predicted).toBe(10)
    if (drive === 'random') expect(run.figures['frequency']).toBeUndefined()
    if (drive === 'dwell') {
      expect(run.figures['frequency']!.value).toBeNear(30, 0.01)
      const r = 30 / 40
      const gain = Math.hypot(1, 0.05 * r) / Math.hypot(1 - r * r, 0.05 * r)
      // The gauge's place multiplies what is relative to the base by 1.3; the second mode adds its own.
      expect(run.figures['ratio']!.value! / (1 + 1.3 * (gain - 1))).toBeNear(1, 0.15)
    } else {
      expect(run.figures['firstFrequency']!.value).toBeNear(40, 0.04)
      expect(run.events.some(e => e.kind === 'resonance')).toBe(true)
      expect(reducedOf(run, 'vibration', plan).of('firstFrequency')).toBeNear(40, 0.025)
    }
    expect(run.events.filter(e => e.kind === 'health')).toEqual([])
  })

  it('transducer: a sweep finds where it rings, a beam is read angle by angle', async () => {
    const sweep = await play('sweep', 'transducer', { truth: { R1: 300, L1: 0.075, C1: 2.2e-10, C0: 3.4e-9 } })
    const rings = 1 / (2 * Math.PI * Math.sqrt(0.075 * 2.2e-10))
    expect(sweep.figures['resonance']!.value! / rings).toBeNear(1, 0.02)
    expect(reducedOf(sweep, 'transducer', PLANS.sweep).of('seriesFrequency') / rings).toBeNear(1, 0.02)
    const beam = await play('beam', 'transducer')
    expect(beam.figures['level']!.predicted).toBeNull()
    expect(beam.figures['down']!.note).toBe('9 angles read')
    const { of } = reducedOf(beam, 'transducer', PLANS.beam)
    expect(of('beamwidth3dB')).toBeGreaterThan(0.05)
  })
})
