import { describe, expect, it } from 'vitest'
import { readingAt, STRUCK, strikesIn, withStrikes } from './struck'

const call = (t: number, role: string, value: number | null = null, reading: number | null = null) => ({
  t,
  kind: 'call-out',
  role,
  value,
  reading,
})
const struck = (t: number, role: string, reading: number) => ({ t, kind: STRUCK, role, value: null, reading })

describe('a reading that was written down wrong', () => {
  const events = [
    call(1, 'load tip', 1000, 0.0472),
    call(4, 'load', 2000),
    call(6, 'load tip', 3000, 0.05),
    { t: 7, kind: 'call-out', role: null, value: null, reading: 1 },
    struck(1, 'tip', 0.0427),
  ]
  const columns = {
    t: Float64Array.from({ length: 10 }, (_, i) => i),
    load: Float64Array.from([0, 1000, 1000, 1000, 2000, 2000, 3000, 3000, 3000, 3000]),
    tip: Float64Array.from([0, 0.0472, 0.0472, 0.0472, 0.0472, 0.0472, 0.05, 0.05, 0.05, 0.05]),
  }

  it('is right from when it was read until the channel was read again, and the record stays as it was', () => {
    const before = columns.tip.slice()
    const right = withStrikes(columns, strikesIn(events))
    expect([...right['tip']!]).toEqual([0, 0.0427, 0.0427, 0.0427, 0.0427, 0.0427, 0.05, 0.05, 0.05, 0.05])
    expect(right['load']).toBe(columns.load)
    expect(columns.tip).toEqual(before)
  })

  it('of several strikes of one reading the newest counts; the last of a channel stands to the end', () => {
    const more = [...events, struck(1, 'tip', 0.04), struck(6, 'load', 2900)]
    const right = withStrikes(columns, strikesIn(more))
    expect(right['tip']![3]).toBe(0.04)
    expect([...right['load']!].slice(5)).toEqual([2000, 2900, 2900, 2900, 2900])
  })

  it('is one that somebody wrote down: words, another moment and another channel are none', () => {
    expect(readingAt(events, 4, 'load')?.value).toBe(2000)
    expect(readingAt(events, 4, 'tip')).toBeUndefined()
    expect(readingAt(events, 7, 'tip')).toBeUndefined()
    expect(readingAt(events, 5, 'load')).toBeUndefined()
    expect(withStrikes(columns, [])).toEqual(columns)
    expect(withStrikes({ tip: columns.tip }, strikesIn(events))['tip']).toBe(columns.tip)
  })
})
