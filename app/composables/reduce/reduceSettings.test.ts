import { families } from '@hypomet/core'
import { describe, expect, it } from 'vitest'
import { followUpsFrom, isSame, settingsAt } from './reduceSettings'

describe('a handle dragged on a figure', () => {
  it('writes one number at its place and leaves everything else as it was', () => {
    const settings = {
      holds: [
        [1, 2],
        [3, 4],
      ],
      zero: [0, 1],
      outcome: 'article',
    }
    const before = structuredClone(settings)
    expect(settingsAt(settings, 'holds.1.0', 3.123456789)).toEqual({
      ...before,
      holds: [
        [1, 2],
        [3.123457, 4],
      ],
    })
    expect(settingsAt(settings, 'start', 7)).toEqual({ ...before, start: 7 })
    expect(settings).toEqual(before)
  })
})

describe('two outputs', () => {
  const output = { results: { a: { value: 1.25, bound: 'exact' } }, list: [1, null, 'x'] }
  it('are the same where only the last digits differ', () => {
    expect(isSame(output, structuredClone(output))).toBe(true)
    expect(isSame(output, { ...output, results: { a: { value: 1.25 * (1 + 1e-12), bound: 'exact' } } })).toBe(true)
  })
  it('are not where a number, a key, a word or a gap does', () => {
    for (const other of [
      { ...output, results: { a: { value: 1.2501, bound: 'exact' } } },
      { ...output, results: { a: { value: 1.25, bound: 'atLeast' } } },
      { ...output, results: {} },
      { ...output, more: 1 },
      { ...output, list: [1, 0, 'x'] },
      null,
    ])
      expect(isSame(output, other)).toBe(false)
  })
})

describe('calculations that go on from results', () => {
  it('are none while settings do not hold together, or where a kind of test has none', () => {
    const output = { results: {}, tables: {}, warnings: [], method: 'x', version: '1' } as never
    expect(families['static']!.followUps).toBeDefined()
    expect(followUpsFrom(families['static']!, output, { designLoad: 'much' }, null)).toEqual([])
    const plain = Object.values(families).flatMap(f => (f && !f.followUps ? [f] : []))
    expect(plain.map(f => followUpsFrom(f, output, {}, null))).toEqual(plain.map(() => []))
  })
})
