import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TriggerGate, type Piece } from './triggerGate'

const TRIGGER = { role: 'a', level: 10, before: 0.2, after: 0.5 }
const RATE = 100

/** Samples in blocks of some size, through a gate: times that were kept, and pieces. */
function through(y: (t: number) => number, { block = 7, seconds = 5, zero = 0 } = {}) {
  const gate = new TriggerGate(TRIGGER, () => zero)
  const [kept, done]: [number[], Piece[]] = [[], []]
  const take = (r: ReturnType<TriggerGate['feed']>) => {
    r.kept.forEach(b => kept.push(...b.t))
    done.push(...r.done)
  }
  const n = seconds * RATE
  for (let i = 0; i < n; i += block) {
    const t = Array.from({ length: Math.min(block, n - i) }, (_, k) => (i + k) / RATE)
    take(gate.feed({ t, channels: { a: t.map(y) } }))
  }
  return { gate, kept, done, take }
}
const pulse =
  (...at: number[]) =>
  (t: number) =>
    at.some(s => t >= s && t < s + 0.03) ? 30 : 0

describe('what a triggered run keeps', () => {
  it('is what lies around each pulse, whole and once, and nothing between', () => {
    const { kept, done } = through(pulse(1, 3))
    expect(done.map(p => [p.number, p.at, p.isHeard])).toEqual([
      [1, 1, true],
      [2, 3, true],
    ])
    const times = (at: number) => Array.from({ length: 71 }, (_, i) => (Math.round((at - 0.2) * RATE) + i) / RATE)
    expect(kept).toEqual([...times(1), ...times(3)])
  })

  it('does not hang on how the samples come', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 90 }), fc.integer({ min: 30, max: 400 }), (block, at) => {
        const { kept, done } = through(pulse(at / RATE), { block, seconds: 6 })
        expect(done).toHaveLength(1)
        expect(kept[0]).toBe(Math.max(0, at - 20) / RATE)
        expect(kept.at(-1)).toBe((at + 50) / RATE)
        expect(kept).toHaveLength(at + 50 - Math.max(0, at - 20) + 1)
      }),
    ))

  it('counts from the channel’s zero, and an overload is beyond any level', () => {
    expect(through(() => 25, { zero: 20 }).done).toEqual([])
    const { gate } = through(() => 0)
    const t = Array.from({ length: 80 }, (_, i) => 5 + i / RATE)
    const raw = { t, channels: { a: t.map((_, i) => (i === 10 ? Infinity : 0)) } }
    const gaps = { t, channels: { a: t.map((_, i) => (i === 10 ? NaN : 0)) } }
    expect(gate.feed(gaps, raw).done.map(p => p.at)).toEqual([5.1])
  })

  it('a rung that nothing was told on keeps what came last; one that is left within a piece closes it', () => {
    const silent = through(() => 1)
    const given = silent.gate.giveUp(5, false)
    expect(given.done.map(p => p.isHeard)).toEqual([false])
    expect(given.kept.flatMap(b => b.t)).toHaveLength(500)
    const heard = through(pulse(1))
    expect(heard.gate.giveUp(5, true)).toEqual({ kept: [], done: [] })
    const cut = through(pulse(4.8))
    expect(cut.done).toEqual([])
    expect(cut.gate.giveUp(5, false).done.map(p => [p.at, p.isHeard])).toEqual([[4.8, true]])
  })

  it('other rates go by the same window', () => {
    const gate = new TriggerGate(TRIGGER, () => 0)
    const kept: Record<number, number[]> = { 0: [], 1: [] }
    for (let i = 0; i < 400; i += 20) {
      const t = Array.from({ length: 20 }, (_, k) => (i + k) / RATE)
      const slow = t.filter((_, k) => k % 10 === 0)
      for (const b of [
        { group: 1, t: slow, channels: { b: slow.map(() => 1) } },
        { group: 0, t, channels: { a: t.map(pulse(2)) } },
      ])
        gate.feed(b).kept.forEach(k => kept[k.group ?? 0]!.push(...k.t))
    }
    expect([kept[0]![0], kept[0]!.at(-1)]).toEqual([1.8, 2.5])
    expect(kept[1]).toEqual([1.8, 1.9, 2, 2.1, 2.2, 2.3, 2.4, 2.5])
  })
})
