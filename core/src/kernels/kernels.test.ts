import { describe, expect, it } from 'vitest'
// @ts-expect-error -- a build script without types
import { compileKernels } from '../../../scripts/compile-kernels.mjs'
import { SeededRandom } from '../statistics/random'
import { BINARY } from './binary'
import { BLOCK, compiledBlocks, plainBlocks } from './blocks'
import { compiledButterflies, plainButterflies } from './butterflies'
import { compiledCounts, plainCounts } from './counts'
import { outline, plainOutline } from './outline'
import { plainSurvey, survey } from './survey'
import { compiledExtremes, plainExtremes, type Samples } from './extremes'

const random = new SeededRandom(3)
const noise = (n: number) => Float64Array.from({ length: n }, () => random.normal() * 10 ** (6 * random.normal()))

/** Compares bits, so that −0 differs from 0 and a gap equals a gap. */
const bits = (x: Samples) => Buffer.from(x.buffer, x.byteOffset, x.byteLength)

describe('the compiled kernels', () => {
  it('are what their source compiles to', async () => {
    expect(BINARY).toBe(Buffer.from((await compileKernels()) as Uint8Array).toString('base64'))
  })

  it('weigh, transform and add up to the same bits as TypeScript, at even and odd powers of two', () => {
    for (const n of [256, 512, 4096, 8192]) {
      const spaces = [plainButterflies(n), compiledButterflies(n)!]
      const [re, im, window] = [noise(n), noise(n), noise(n)]
      for (const s of spaces) {
        s.re.set(re)
        s.im.set(im)
        s.window.set(window)
        for (let i = 0; i < 2; i++) {
          s.weigh()
          s.transform()
          s.addPower()
        }
      }
      for (const part of ['re', 'im', 'power'] as const)
        expect(bits(spaces[1]![part]).equals(bits(spaces[0]![part])), `${part} of ${n}`).toBe(true)
    }
  })

  it(
    'find the same extremes to the bit, over gaps, infinities, zeros of either sign and ends that ' + 'are not full',
    () => {
      const odd = [NaN, Infinity, -Infinity, 0, -0]
      for (const Kind of [Float32Array, Float64Array])
        for (const n of [1, 7, 8, 9, 64, 1000, 262_144, 262_145, 300_007]) {
          const x = new Kind(
            noise(n).map((v, i) =>
              i % 5 === 0 || (i >> 6) % 7 === 3 ? odd[Math.floor(random.uniform() * (i % 3 ? 5 : 1))]! : v,
            ),
          )
          const [plain, compiled] = [plainExtremes, compiledExtremes()!].map(extremes => {
            const first = new Kind(2 * Math.ceil(n / 8))
            const second = new Kind(2 * Math.ceil(first.length / 16))
            extremes.ofSamples(x, first)
            extremes.ofPairs(first, second)
            return [first, second]
          })
          for (const level of [0, 1])
            expect(bits(compiled![level]!).equals(bits(plain![level]!)), `${Kind.name} of ${n}, level ${level}`).toBe(
              true,
            )
        }
    },
  )

  it('pack numbers with decimals into the same bytes, and give the numbers back; others they refuse', () => {
    const [plain, compiled] = [plainCounts, compiledCounts()!]
    const values = Float64Array.from({ length: 5037 }, (_, i) =>
      i % 97 === 5 ? NaN : i < 900 ? 4 : Math.round(random.normal() * 1e6) / 1000,
    )
    const packed = plain.pack(values, 1000)!
    expect(Buffer.from(compiled.pack(values, 1000)!).equals(Buffer.from(packed))).toBe(true)
    for (const c of [plain, compiled]) {
      expect(c.unpack(packed, 5037, 1000)).toEqual(values)
      expect([0.0005, Infinity, 3e6].map(v => c.pack(Float64Array.of(1, v), 1000))).toEqual([null, null, null])
    }
  })

  it('see the same in one look along a channel', () => {
    const values = Float64Array.from({ length: 70_000 }, (_, i) =>
      i % 501 === 9 ? NaN : i > 20_000 && i < 20_100 ? 4 : i % 777 === 0 ? 1e6 : random.normal(),
    )
    for (const v of [values, new Float64Array(3).fill(NaN), Float64Array.of(1, 1, 1, 2), new Float64Array(0)]) {
      const [a, b] = [plainSurvey, survey].map(look => look(v, 50, 5)) as [
        ReturnType<typeof survey>,
        ReturnType<typeof survey>,
      ]
      expect({ ...b, jumps: Array.from(b.jumps) }).toEqual({ ...a, jumps: Array.from(a.jumps) })
    }
  })

  it('draw the same outline of a chunk', () => {
    for (const n of [0, 1, 64, 65, 5000, 5003]) {
      const values = Float64Array.from({ length: n }, (_, i) =>
        i % 31 === 4 || (i > 128 && i < 260) ? NaN : i > 400 && i < 500 ? 0 * random.normal() : random.normal(),
      )
      const [a, b] = [plainOutline(values), outline(values)]
      expect({ ...b, pairs: Array.from(b.pairs) }).toEqual({ ...a, pairs: Array.from(a.pairs) })
    }
  })

  it('calculate blocks to the same bits', () => {
    const [plain, compiled] = [plainBlocks(3), compiledBlocks(3)!]
    for (const b of [plain, compiled]) b.values.set(Float64Array.from({ length: 2 * BLOCK }, (_, i) => Math.tan(i)))
    for (const what of ['plus', 'minus', 'times', 'over'] as const) {
      for (const b of [plain, compiled]) b.calculate(what, 2, 0, 1)
      expect(bits(compiled.values).equals(bits(plain.values)), what).toBe(true)
    }
  })
})
