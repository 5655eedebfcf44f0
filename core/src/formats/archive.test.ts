import { deflateSync, gzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { HypometError } from '../error'
import { beginningOf } from './archive'

const rows = new TextEncoder().encode(Array.from({ length: 40_000 }, (_, i) => `${i},${(i * 7919) % 1009}\n`).join(''))

describe('the beginning of what is packed', () => {
  it('is what was packed, as far as its bytes go: whole, cut off, or damaged further on', () => {
    for (const [packed, how] of [
      [gzipSync(rows), 'gzip'],
      [deflateSync(rows), 'deflate'],
    ] as const) {
      expect(beginningOf(packed, how).length).toBe(rows.length)
      const cut = beginningOf(packed.subarray(0, packed.length >> 1), how)
      expect(cut.every((b, i) => b === rows[i])).toBe(true)
      expect(cut.length / rows.length).toBeGreaterThan(0.3)
      const damaged = packed.slice()
      damaged.fill(0xff, packed.length >> 1)
      const some = beginningOf(damaged, how).subarray(0, 100_000)
      expect([some.length, some.every((b, i) => b === rows[i])]).toEqual([100_000, true])
    }
  })

  it('ends where it is enough: not all of what is filled with nothing is unpacked', () => {
    const bomb = gzipSync(new Uint8Array(120 * 2 ** 20), { level: 1 })
    const { length } = beginningOf(bomb, 'gzip')
    expect(length).toBeGreaterThanOrEqual(64 * 2 ** 20)
    expect(length).toBeLessThan(96 * 2 ** 20)
  })

  it('is refused where nothing can be unpacked', () => {
    const noise = Uint8Array.from({ length: 500 }, (_, i) => (i * 73 + 41) % 251)
    noise.set([0x1f, 0x8b, 8, 0])
    expect(() => beginningOf(noise, 'gzip')).toThrowError(HypometError)
  })
})
