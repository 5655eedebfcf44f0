import { describe, expect, it } from 'vitest'
import { simulatedRigOf, viewPlanOf } from '../index'
import { PROPERTIES, WRITTEN } from '../fixtures/arm'
import type { Fault } from './faults'
import { commandLadder } from './ladder'
import type { SimulatedRig, SimulatedState } from './simulatedRig'

const rigOf = (change: object = {}, seed = 7, truth?: unknown): SimulatedRig =>
  simulatedRigOf('static', viewPlanOf('static', { ...WRITTEN, ...change }, PROPERTIES, {}), PROPERTIES, { seed, truth })
const rig = rigOf()
const later = (s: SimulatedState): SimulatedState => JSON.parse(JSON.stringify(s)) as SimulatedState
const fault = (kind: Fault['kind'], at: number, role = 'load'): Fault => ({ kind, role, label: role, at })

describe('the stand-in for a rig', () => {
  it('climbs the ladder to its end, and goes on from its memory as if nothing had happened', () => {
    const whole = rig.whole(7)
    expect(whole.state.end).toBe('ladder done')
    let state = rig.start(7)
    const load: number[] = []
    while (state.phase !== 'ended') {
      const part = rig.advance(later(state), 137)
      load.push(...part.blocks[0]!.channels['load']!)
      state = part.state
    }
    expect(load).toEqual(whole.blocks[0]!.channels['load'])
  })

  it('lags behind its set-point and overshoots it a little, then stands on it', () => {
    const { blocks } = rigOf({
      rungs: [
        { target: 0, hold: 10 },
        { target: 1000, hold: 30 },
      ],
      ramp: 2,
    }).whole(7)
    const { t, channels } = blocks[0]!
    const zero = channels['load']!.slice(0, 90).reduce((a, b) => a + b, 0) / 90
    const at = (s: number) => channels['load']![t.findIndex(x => x >= s)]! - zero
    // Half-way up the ramp it is some 0.3 s behind: 150 N of 500.
    expect(at(11)).toBeGreaterThan(280)
    expect(at(11)).toBeLessThan(420)
    const most = Math.max(...channels['load']!) - zero
    expect(most).toBeGreaterThan(1008)
    expect(most).toBeLessThan(1060)
    expect(at(38)).toBeGreaterThan(985)
    expect(at(38)).toBeLessThan(1015)
  })

  it(
    'waits at a rung that somebody looks at, until they say go; held meanwhile, it waits on; a count-down goes ' +
      'on by itself',
    () => {
      const looking = rigOf({ rungs: WRITTEN.rungs.map((r, i) => ({ ...r, decision: i === 1 })) })
      let { state } = looking.advance(looking.start(7), 2000)
      expect([state.phase, state.rung, Math.round(state.load)]).toEqual(['waiting', 1, 800])
      state = looking.command(looking.command(state, 'hold'), 'resume')
      expect(looking.advance(state, 500).state.rung).toBe(1)
      const counted = looking.command(state, 'count-down', 10)
      expect(looking.advance(counted, 99).state.rung).toBe(1)
      expect(looking.advance(counted, 102).state).toMatchObject({ rung: 2, phase: 'ramp' })
      state = looking.advance(looking.command(state, 'go'), 200).state
      expect([state.phase, state.rung]).toEqual(['hold', 2])
      expect(looking.command(state, 'go')).toBe(state)
    },
  )

  it('holds and goes on; an abort comes down at once, a stop as it went up; a break comes down by itself', () => {
    let { state } = rig.advance(rig.start(7), 500)
    const held = rig.advance(rig.command(state, 'hold'), 100)
    expect([held.state.phase, held.state.set]).toEqual(['paused', state.set])
    expect(rig.command(held.state, 'resume').phase).toBe(state.phase)
    const loadAfter = (command: 'abort' | 'stop', samples: number) =>
      rig.advance(rig.command(state, command), samples).state
    expect(loadAfter('abort', 50).load).toBeLessThan(20)
    expect(loadAfter('stop', 50).load).toBeGreaterThan(200)
    state = loadAfter('abort', 1000)
    expect(state).toMatchObject({ phase: 'ended', end: 'aborted' })
    expect(Math.abs(state.load)).toBeLessThan(1)
    const weak = rigOf({}, 7, {
      compliance: 2.7e-5,
      articleStrength: 3000,
      fixtureStrength: Infinity,
      creepShare: 0.01,
      creepTime: 8,
      setAtStrength: 0,
      loadOffset: 0,
      deflectionOffset: 0,
      loadNoise: 1,
      deflectionNoise: 1e-5,
      strainNoise: 1e-6,
    }).whole(7)
    expect(weak.state.end).toBe('article broke')
    expect(Math.max(...weak.blocks[0]!.channels['load']!)).toBeLessThan(3200)
  })

  it('gives each rate its own samples, on one clock', () => {
    const { blocks } = rigOf({
      channels: [
        ...WRITTEN.channels,
        { role: 'ambient', label: 'Air', kind: 'temperature', rateClass: 'slow', expected: { value: 21, unit: '°C' } },
      ],
    }).whole(7)
    expect(blocks.map(b => Object.keys(b.channels))).toEqual([['load', 'deflection', 'strainRoot'], ['ambient']])
    expect(blocks[1]!.t.slice(0, 3)).toEqual([0, 1, 2])
    expect(blocks[0]!.t.length / blocks[1]!.t.length).toBeNear(10, 0.002)
    expect(blocks[1]!.channels['ambient']!.every(v => v > 280 && v < 300)).toBe(true)
  })
})

describe('faults of the rig', () => {
  const loadOf = (f: Fault) => {
    const { blocks, state } = rig.whole(7, [f])
    const { t, channels } = blocks[0]!
    return {
      at: (s: number) => channels['load']![t.findIndex(x => x >= s)]!,
      t,
      state,
      deflection: channels['deflection']!,
    }
  }

  it('a slip takes a fifth of the load at once, and the rig comes back', () => {
    const { at } = loadOf(fault('slips', 50))
    expect(at(50.1) / at(49.8)).toBeLessThan(0.9)
    expect(at(58) / at(49.8)).toBeNear(1, 0.005)
  })

  it('a leak lets the load fall in the hold, four thousandths a second, and not before', () => {
    const { at } = loadOf(fault('leaks', 40))
    expect(at(39.5) / at(37)).toBeCloseTo(1, 2)
    expect(at(55) / at(39.5)).toBeNear(1 - 15 * 0.004, 0.01)
    expect(at(55)).toBeLessThan(0.97 * at(39.5))
  })

  it('an article that gives way early does so below six tenths of the highest rung', () => {
    const { state, deflection } = loadOf(fault('gives-early', 0))
    expect(state.end).toBe('article broke')
    expect(Math.max(...deflection)).toBeGreaterThan(5600 * 0.6 * 2.4e-5)
  })

  it('a clock that runs fast stamps later than it is', () => {
    const { t } = loadOf(fault('clock-runs-fast', 100))
    expect(t[999]).toBeCloseTo(99.9, 9)
    expect(t[2000]).toBeCloseTo(200 + 2, 9)
  })
})

describe('a bag behind a pump', () => {
  const bag = {
    loading: { kind: 'vessel', volume: { value: 180, unit: 'L' }, radius: { value: 210, unit: 'mm' } },
    ramp: 15,
    rate: 10,
    rungs: [0, 50, 100, 130, 0].map(value => ({ target: { value, unit: 'kPa' }, hold: 30 })),
    channels: [
      { role: 'pressure', label: 'Bag', kind: 'pressure' },
      { role: 'pressure2', label: 'Far end', kind: 'pressure', twin: 'pressure' },
      { role: 'girth', label: 'Girth', kind: 'length', expected: { value: 30, unit: 'mm' } },
    ],
  }
  const run = (predicted: number, faults: Fault[] = []) =>
    simulatedRigOf(
      'burst',
      viewPlanOf('burst', bag, {}, {}),
      {},
      { seed: 3, predicted: [{ quantity: 'burstPressure', value: predicted }] },
    ).whole(3, faults)

  it('reads what the plan expects, a little off, its twins alike, and bursts about where it is predicted to', () => {
    const { state, blocks } = run(200e3)
    expect(state.end).toBe('ladder done')
    const { t, channels } = blocks[0]!
    const k = t.findIndex(x => x > 30 + 15 + 30 + 15 + 30 + 15 + 25)
    expect(channels['pressure']![k]! / 130e3).toBeNear(1, 0.002)
    expect(channels['pressure2']![k]! / channels['pressure']![k]!).toBeNear(1, 0.01)
    expect(channels['girth']![k]! / 0.03).toBeNear(1, 0.5)
    const burst = run(90e3)
    expect(burst.state.end).toBe('article broke')
    // Whoever aborts while it comes down after the break does not undo the break.
    expect(commandLadder({ rungs: [], by: 'set' }, { ...burst.state, phase: 'unloading' }, 'abort').end).toBe(
      'article broke',
    )
    expect(Math.max(...burst.blocks[0]!.channels['pressure']!)).toBeGreaterThan(75e3)
    expect(Math.max(...burst.blocks[0]!.channels['pressure']!)).toBeLessThan(110e3)
  })
})
