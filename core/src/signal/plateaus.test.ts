import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { SeededRandom } from '../statistics/random'
import { findPlateaus } from './plateaus'
import { plateauTable } from '../method/plateauTable'
import { buildPyramid } from './pyramid'

/** By the definition, slowly: all windows. */
function slowest(
  t: number[],
  y: number[],
  width: number,
  minHold: number,
  from = 0,
  to = y.length,
): { from: number; to: number }[] {
  let best: { from: number; to: number; lasts: number } | null = null
  for (let i = from; i < to; i++)
    for (let j = i; j < to; j++) {
      const part = y.slice(i, j + 1)
      if (Math.max(...part) - Math.min(...part) > width) break
      const lasts = t[j]! - t[i]!
      if (lasts >= minHold - 1e-9 && lasts > (best?.lasts ?? -1) + 1e-9) best = { from: i, to: j + 1, lasts }
    }
  if (!best) return []
  return [
    ...slowest(t, y, width, minHold, from, best.from),
    { from: best.from, to: best.to },
    ...slowest(t, y, width, minHold, best.to, to),
  ]
}

/** The same without its ramps, by the definition: sorted, and all threes looked at. */
function withoutRamps(y: number[], { from, to }: { from: number; to: number }, tolerance: number) {
  const middleOf = (v: number[]) => {
    const s = v.toSorted((a, b) => a - b)
    return (s[Math.floor((s.length - 1) / 2)]! + s[Math.ceil((s.length - 1) / 2)]!) / 2
  }
  if (to - from < 8) return { from, to }
  const quarter = Math.ceil((to - from) / 4)
  const inner = y.slice(from + quarter, to - quarter)
  const m = middleOf(inner)
  const most = Math.max(3 * 1.4826 * middleOf(inner.map(v => Math.abs(v - m))), tolerance / 20)
  const threes = Array.from({ length: to - from - 2 }, (_, k) => from + k).filter(i =>
    [0, 1, 2].every(k => Math.abs(y[i + k]! - m) <= most),
  )
  return threes.length === 0 ? { from, to } : { from: threes[0]!, to: threes.at(-1)! + 3 }
}

describe('plateaus', () => {
  it('are those of the definition, on noisy staircases with uneven time', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const random = new SeededRandom(seed)
      const t: number[] = []
      const y: number[] = []
      for (let i = 0; i < 90; i++) {
        t.push((t.at(-1) ?? 0) + 0.5 + random.uniform())
        y.push(Math.floor(i / 18) * 10 + (i % 18 < 5 ? (i % 18) * 2 : 10) + random.normal())
      }
      expect(findPlateaus(Float64Array.from(t), Float64Array.from(y), 2, 5), `seed ${seed}`).toEqual(
        slowest(t, y, 4, 5).map(p => withoutRamps(y, p, 2)),
      )
    }
  })

  it('end where the ramps beside them begin, however slow these are', () => {
    // Up in 40 s, held at 100 for 60 s, up again; quiet to a hundredth.
    const random = new SeededRandom(7)
    const t = Float64Array.from({ length: 1400 }, (_, i) => i / 10)
    const y = t.map(s => Math.min(100, 2.5 * s) + Math.max(0, s - 100) + 0.01 * random.normal())
    const [held] = findPlateaus(t, y, 3, 30).filter(p => Math.abs(y[(p.from + p.to) >> 1]! - 100) < 1)
    expect(t[held!.from]).toBeGreaterThan(39.9)
    expect(t[held!.to - 1]).toBeLessThan(100.2)
    const [mean, untrimmed] = [
      [held!.from, held!.to],
      [388, 1030],
    ].map(([a, b]) => {
      const part = y.subarray(a, b)
      return part.reduce((s, v) => s + v, 0) / part.length
    })
    expect(Math.abs(mean! - 100)).toBeLessThan(0.01)
    expect(Math.abs(untrimmed! - 100)).toBeGreaterThan(0.01)
  })

  it('give mean, spread and creep over the hold, and null where a channel has nothing', () => {
    const t = Float64Array.from([0, 1, 2, 3])
    const table = plateauTable(
      t,
      [{ from: 0, to: 4 }],
      { load: Float64Array.from([1, 2, 3, 4]), dead: new Float64Array(4).fill(NaN) },
      { load: 'N', dead: 'm' },
    )
    expect(table.columns).toMatchObject({
      n: [4],
      loadMean: [2.5],
      loadCreep: [3],
      deadMean: [null],
      deadSd: [null],
      deadCreep: [null],
    })
    expect(table.columns['loadSd']![0]).toBeCloseTo(1.2909944487358056, 14)
  })
})

describe('pyramid', () => {
  it('bounds every sample by the pair that stands for it, on every level', () => {
    const record = fc.array(fc.oneof(fc.double({ min: -1e6, max: 1e6, noNaN: true }), fc.constant(NaN)), {
      minLength: 600,
      maxLength: 5000,
    })
    fc.assert(
      fc.property(record, samples => {
        const values = Float64Array.from(samples)
        return buildPyramid(values).every(({ factor, data }) =>
          values.every((v, i) => {
            const pair = Math.floor(i / factor)
            return Number.isNaN(v) || (data[2 * pair]! <= v && v <= data[2 * pair + 1]!)
          }),
        )
      }),
      { numRuns: 30 },
    )
  })

  it('keeps every extreme on every level, and passes gaps by', () => {
    const values = Float64Array.from({ length: 40_001 }, (_, i) => Math.sin(i / 50) + (i === 31_234 ? 9 : 0))
    values.fill(NaN, 8, 16)
    const levels = buildPyramid(values)
    expect(levels.map(l => l.factor)).toEqual([8, 64, 512])
    expect(Number.isNaN(levels[0]!.data[2]!)).toBe(true)
    for (const { factor, data } of levels) {
      const at = Math.floor(31_234 / factor)
      const block = values.slice(at * factor, (at + 1) * factor)
      expect([data[2 * at], data[2 * at + 1]]).toEqual([Math.min(...block), Math.max(...block)])
    }
  })
})
