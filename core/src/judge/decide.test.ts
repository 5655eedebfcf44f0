import { describe, expect, it } from 'vitest'
import {
  combine,
  coverageFactor,
  decide,
  marginOfSafety,
  rangeState,
  reserveFactor,
  runReduce,
  sensorBudget,
  underValidity,
  type Bound,
} from '../index'

const result = (value: number, u = 0, bound: Bound = 'exact') => ({ value, u, k: 2, bound })

describe('decision', () => {
  it('guarded: what has no uncertainty is not decided, however far it lies; a count is', () => {
    for (const bound of ['exact', 'atLeast', 'atMost'] as const)
      for (const value of [1, 81, 500]) {
        const decision = decide({ value, bound }, 'atMost', 82, 'guarded')
        expect([decision.verdict, decision.conformity, decision.room]).toEqual(['undecided', null, 82 - value])
        expect(decision.reason).toMatch(/^No uncertainty is known of it.*name the sensor.*type how far.*repeat/)
      }
    expect(decide({ value: 81, bound: 'exact' }, 'atMost', 82, 'simple').verdict).toBe('pass')
    expect(decide({ value: 3, bound: 'exact' }, 'atMost', 2, 'guarded', true).verdict).toBe('fail')
    expect(decide({ value: null, bound: 'exact' }, 'atMost', 82, 'guarded').reason).toBe('There is no value to judge.')
  })

  it('guarded: passes clear of the limit, fails past it, is undecided across it', () => {
    expect(decide(result(80, 0.5), 'atMost', 82, 'guarded').verdict).toBe('pass')
    expect(decide(result(81.5, 0.5), 'atMost', 82, 'guarded').verdict).toBe('undecided')
    expect(decide(result(83.5, 0.5), 'atMost', 82, 'guarded').verdict).toBe('fail')
    expect(decide(result(81.5, 0.5), 'atMost', 82, 'simple').verdict).toBe('pass')
    expect(decide(result(81, 0.5), 'atMost', 82, 'guarded').verdict).toBe('pass')
  })

  it('a lower bound can pass a minimum and never fail one; it can fail a maximum and never pass one', () => {
    expect(decide(result(5600, 8, 'atLeast'), 'atLeast', 4800, 'guarded').verdict).toBe('pass')
    expect(decide(result(4350, 8, 'atLeast'), 'atLeast', 4800, 'guarded').verdict).toBe('undecided')
    expect(decide(result(100, 1, 'atLeast'), 'atMost', 82, 'guarded').verdict).toBe('fail')
    expect(decide(result(10, 1, 'atLeast'), 'atMost', 82, 'guarded').verdict).toBe('undecided')
  })

  it('an interval decides only where all of it lies on one side', () => {
    const bound = { interval: [850, 950] as [number, number] }
    expect(decide(result(900, 0, bound), 'atLeast', 840, 'guarded').verdict).toBe('pass')
    expect(decide(result(900, 0, bound), 'atLeast', 900, 'guarded').verdict).toBe('undecided')
    expect(decide(result(900, 0, bound), 'atLeast', 960, 'guarded').verdict).toBe('fail')
  })

  it('an interval holds its U at its ends; where nothing is known of them, only a simple rule decides', () => {
    const bound = { interval: [850, 950] as [number, number] }
    expect(decide(result(900, 30, bound), 'atLeast', 840, 'guarded')).toMatchObject({ verdict: 'pass', U: 0 })
    expect(decide({ value: 900, bound }, 'atLeast', 840, 'guarded').verdict).toBe('undecided')
    expect(decide({ value: 900, bound }, 'atLeast', 840, 'simple').verdict).toBe('pass')
  })

  it('call-outs of a pull pass a guarded limit only with their gauge', () => {
    const callouts = [1000, 2000, 3000].map(force => ({ force }))
    const gauge = { gaugeFullScale: 10e3, gaugeAccuracy: 0.005 }
    const verdicts = [{}, gauge].map(s => {
      const { results } = runReduce({ family: 'pull', settings: { callouts, ...s } }, null)
      return decide(results['peakForce']!, 'atLeast', 2500, 'guarded').verdict
    })
    expect(verdicts).toEqual(['undecided', 'pass'])
  })

  it('gives the chance of conformity, and says nothing of it for a bound', () => {
    expect(decide(result(80, 1), 'atMost', 81.96, 'guarded').conformity).toBeCloseTo(0.975, 3)
    expect(decide(result(80, 1, 'atLeast'), 'atMost', 82, 'guarded').conformity).toBeNull()
    expect(decide({ value: null, bound: 'exact' }, 'atMost', 82, 'guarded').verdict).toBe('undecided')
  })

  it('stays open when the test was judged invalid, whatever was measured', () => {
    const passed = decide(result(80, 0.5), 'atMost', 82, 'guarded')
    expect(underValidity(passed, 'invalid')).toMatchObject({
      verdict: 'undecided',
      room: passed.room,
      conformity: null,
    })
    expect(underValidity(passed, 'valid-with-remarks')).toBe(passed)
    expect(underValidity(passed, null)).toBe(passed)
  })

  it('has margins that agree with one another', () => {
    expect(reserveFactor(5600, 'atLeast', 4800)).toBeCloseTo(1.1667, 4)
    expect(marginOfSafety(89.4, 'atMost', 82)).toBeCloseTo(82 / 89.4 - 1, 12)
  })
})

describe('uncertainty', () => {
  it('coverage factors are t quantiles at 95.45 %', () => {
    expect(coverageFactor(Infinity)).toBeCloseTo(2.0, 4)
    // GUM, table G.2, column 95.45 %.
    for (const [dof, k] of [
      [1, 13.97],
      [10, 2.28],
      [20, 2.13],
    ] as const)
      expect(coverageFactor(dof)).toBeCloseTo(k, 2)
  })

  it('combines by Welch and Satterthwaite', () => {
    const { u, dof } = combine([
      { name: 'a', contribution: 3, dof: 4 },
      { name: 'b', contribution: 4, dof: Infinity },
    ])
    expect([u, dof]).toEqual([5, (5 ** 4 / 3 ** 4) * 4])
  })

  it('makes rectangular halves of ± terms and full steps of resolutions', () => {
    const items = Object.fromEntries(
      sensorBudget(
        {
          fullScale: 1000,
          certificate: { U: 2, k: 2 },
          linearity: 0.001,
          resolution: 0.6,
          temperatureSpan: 1e-4,
          deltaT: -10,
          converter: { range: 2000, bits: 10 },
        },
        500,
      ).map(c => [c.name, c.contribution]),
    )
    expect(items['certificate']).toBe(1)
    expect(items['linearity']).toBeCloseTo(1 / Math.sqrt(3), 14)
    expect(items['resolution']).toBeCloseTo(0.3 / Math.sqrt(3), 14)
    expect(items['temperatureSpan']).toBeCloseTo(0.5 / Math.sqrt(3), 14)
    expect(items['converter']).toBeCloseTo(2000 / 1024 / Math.sqrt(12), 14)
  })

  it('sees a gauge that is too large, too small, or just right', () => {
    expect([80, 500, 950, 1200].map(v => rangeState(v, 1000).state)).toEqual([
      'low-range',
      'fits',
      'near-full-scale',
      'over-range',
    ])
  })
})
