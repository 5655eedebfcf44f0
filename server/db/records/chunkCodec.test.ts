import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { decodeChunk, encodeChunk } from './chunkCodec'

/** To the bit, but for the sign of a zero, which no reading has; NaN is a sample like any other. */
const same = (a: Float64Array, b: Float64Array) =>
  a.length === b.length && a.every((v, i) => v === b[i] || (Number.isNaN(v) && Number.isNaN(b[i]!)))
const givesBack = (values: number[] | Float64Array) => {
  const samples = Float64Array.from(values)
  return same(decodeChunk(encodeChunk(samples), samples.length), samples)
}

describe('samples as bytes', () => {
  it('come back to the bit, whatever they are', () => {
    fc.assert(fc.property(fc.float64Array({ maxLength: 300 }), values => givesBack(values)))
  })

  it('come back as loggers write them: counts, fixed decimals, steps, gaps, a jump among them', () => {
    const decimals = fc.integer({ min: 0, max: 9 })
    const counts = fc.array(fc.oneof(fc.integer({ min: -2000, max: 2000 }), fc.integer()), { maxLength: 300 })
    const gaps = fc.array(fc.nat(299), { maxLength: 5 })
    fc.assert(
      fc.property(counts, decimals, gaps, (whole, places, at) => {
        const values = whole.map(n => Number((n / 10 ** places).toFixed(places)))
        for (const i of at) if (i < values.length) values[i] = NaN
        return givesBack(values)
      }),
    )
  })

  it.each([
    ['none', []],
    ['one', [3.25]],
    ['ever the same', Array.from({ length: 4096 }, () => 0.1)],
    ['only gaps', [NaN, NaN, NaN]],
    ['the largest and the smallest', [Number.MAX_VALUE, -Number.MAX_VALUE, Number.MIN_VALUE, 0, -0]],
    ['whole numbers beyond 2⁵³', [2 ** 53, 2 ** 53 + 2, -(2 ** 60)]],
    ['no numbers', [Infinity, -Infinity, NaN]],
  ])('%s', (_, values) => expect(givesBack(values)).toBe(true))

  it('take little room where a logger wrote few decimals', () => {
    const slow = Float64Array.from({ length: 10_000 }, (_, i) => Math.round(1000 * Math.sin(i / 500)) / 1000)
    expect(encodeChunk(slow).length / slow.length).toBeLessThan(1)
  })
})
