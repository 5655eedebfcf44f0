import { describe, expect, it } from 'vitest'
import { evaluateRecord } from '../expression/record'
import type { RigBlock } from './block'
import { LiveDerived } from './liveDerived'

const RATE = 100
const times = (n: number, rate = RATE, from = 0): number[] => Array.from({ length: n }, (_, k) => (from + k) / rate)

/** A record cut into blocks of changing length, as drivers give them. */
function inBlocks(t: number[], channels: Record<string, number[]>): RigBlock[] {
  const blocks: RigBlock[] = []
  for (let k = 0, n = 1; k < t.length; k += n, n = (n % 7) + 1)
    blocks.push({
      t: t.slice(k, k + n),
      channels: Object.fromEntries(Object.entries(channels).map(([r, v]) => [r, v.slice(k, k + n)])),
    })
  return blocks
}

const run = (live: LiveDerived, blocks: RigBlock[], role: string): number[] =>
  blocks.flatMap(b => live.feed(b).channels[role] ?? [])

describe('channels that a plan derives, live', () => {
  it('are what a record gives, block by block', () => {
    const t = times(400)
    const a = t.map(x => Math.sin(3 * x))
    const b = t.map(x => x ** 2)
    const expression = '1.27 * (a - b) / mean(a, 4)'
    const live = new LiveDerived([{ role: 'turn', expression }], { a: RATE, b: RATE })
    const whole = evaluateRecord(expression, {
      channels: { a: Float64Array.from(a), b: Float64Array.from(b) },
      interval: 1 / RATE,
    })
    const got = run(live, inBlocks(t, { a, b }), 'turn')
    expect(got).toHaveLength(400)
    got.forEach((v, k) => expect(v).toBeCloseTo(whole[k]!, 12))
  })

  it('look along the record from what has come: a slope, an area, a wave far below its cutoff', () => {
    const t = times(1000)
    const x = t.map(s => 3 + 2 * s)
    const live = new LiveDerived(
      [
        { role: 'slope', expression: 'deriv(x)' },
        { role: 'area', expression: 'integ(x - 3)' },
        { role: 'smooth', expression: 'lowpass(0 * x + 5, 8)' },
        { role: 'nested', expression: 'deriv(integ(x))' },
      ],
      { x: RATE },
    )
    const blocks = inBlocks(t, { x }).map(b => live.feed(b))
    const of = (role: string) => blocks.flatMap(b => b.channels[role]!)
    expect(of('slope')[0]).toBeNaN()
    for (const v of of('slope').slice(1)) expect(v).toBeCloseTo(2, 9)
    // ∫ 2s ds = s².
    of('area').forEach((v, k) => expect(v).toBeCloseTo(t[k]! ** 2, 9))
    for (const v of of('smooth')) expect(v).toBeCloseTo(5, 12)
    // Backward over trapezoids: the mean of two neighbours.
    of('nested').forEach((v, k) => k > 0 && expect(v).toBeCloseTo((x[k]! + x[k - 1]!) / 2, 9))
  })

  it('keep the clock of the fastest and hold a slower one, but not one that has fallen silent', () => {
    const live = new LiveDerived([{ role: 'd', expression: 'fast - slow' }], { fast: 100, slow: 10 })
    expect(live.feed({ group: 1, t: [0], channels: { slow: [4] } }).channels).toEqual({ slow: [4] })
    expect(live.feed({ t: [0, 0.01], channels: { fast: [10, 11] } }).channels['d']).toEqual([6, 7])
    expect(live.feed({ t: [0.9], channels: { fast: [12] } }).channels['d']).toEqual([8])
    expect(live.feed({ t: [1.2], channels: { fast: [12] } }).channels['d']).toEqual([NaN])
  })

  it('have a gap where one of theirs has, and are beyond reading where one is', () => {
    const live = new LiveDerived([{ role: 'r', expression: 'a / (a + b)' }], { a: 10, b: 10 })
    const block = { t: [0, 0.1, 0.2, 0.3], channels: { a: [1, NaN, Infinity, 0], b: [1, 1, 1, 0] } }
    expect(live.feed(block).channels['r']).toEqual([0.5, NaN, Infinity, NaN])
  })

  it('leave out what cannot be worked out, and what a block brings itself', () => {
    const live = new LiveDerived(
      [
        { role: 'bad', expression: 'a +' },
        { role: 'lost', expression: 'a + nowhere' },
        { role: 'load', expression: 'a + a' },
      ],
      { a: 10 },
    )
    expect(live.feed({ t: [0], channels: { a: [2], load: [9] } }).channels).toEqual({ a: [2], load: [9] })
    expect(live.feed({ t: [0.1], channels: { a: [2] } }).channels).toEqual({ a: [2], load: [4] })
  })
})
