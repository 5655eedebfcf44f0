import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LineStream } from './lineStream'
import { LiveHealth } from './liveHealth'
import { project } from './projection'
import { SlidingWindow } from './sliding'

describe('a live stream of lines', () => {
  const make = (time: boolean) =>
    new LineStream({
      delimiter: ';',
      width: 3,
      interval: 0.1,
      columns: [
        { role: 'load', index: 1, toSi: v => v * 1000 },
        { role: 'tip', index: 2, toSi: v => v / 1000 },
      ],
      time: time ? { index: 0, toSi: v => v } : null,
    })

  it('comes in pieces that end anywhere; its clock is set to the run’s', () => {
    const s = make(true)
    expect(s.push('50,0;1,25;2', 3).block.t).toEqual([])
    const { block, troubles } = s.push(',5\r\n50,1;1,30;2,6\r\n50,2;1', 3.2)
    expect(block.t).toEqual([expect.closeTo(3.2, 9), expect.closeTo(3.3, 9)])
    expect(block.channels).toEqual({ load: [1250, 1300], tip: [0.0025, 0.0026] })
    expect(troubles).toEqual([])
  })

  it('garbage is counted and left out, a burst of it is one word; gaps in a line stay gaps', () => {
    const s = make(true)
    // A header is none.
    const { block, troubles } = s.push('Zeit;Last;Weg\ns;kN;mm\n0;1;2\nERR 17\n####\n;;\n0,1;1;2\n0,2;nan;2\n', 0)
    expect(block.t).toHaveLength(3)
    expect(block.channels['load']![2]).toBeNaN()
    expect(troubles.map(t => t.code)).toEqual(['garbage'])
    expect(s.counts).toMatchObject({ garbage: 2, lines: 7 })
  })

  it('a stamp that comes again is left out, a jump is a gap, a clock that begins anew is set on', () => {
    const s = make(true)
    const first = s.push('10;1;1\n10,1;1;1\n10,1;9;9\n10,1;9;9\n', 0)
    expect(first.troubles.map(t => t.code)).toEqual(['repeated-stamp'])
    const { block, troubles } = s.push('12,0;1;1\n', 2)
    expect([...first.block.t, ...block.t].map(t => +t.toFixed(6))).toEqual([0, 0.1, 2])
    expect(troubles.map(t => t.code)).toEqual(['gap'])
    expect(s.counts).toMatchObject({ repeated: 2, gaps: 1 })
    const again = s.push('0;1;1\n0,1;1;1\n0,2;1;1\n', 7)
    expect(again.troubles.map(t => t.code)).toEqual(['clock-back', 'gap'])
    expect(again.block.t).toEqual([7, expect.closeTo(7.1, 9), expect.closeTo(7.2, 9)])
  })

  it('a word for overload is beyond its channel, a word that is none is a gap of that cell alone', () => {
    const s = make(true)
    const { block, troubles } = s.push(
      '0;1;OVERLOAD\n0,1;ERR;2\n0,2;-OL;2\n0,3;9.91E37;+OVER\n0,4;1;2\n0,5;1;OVL\n',
      0.5,
    )
    expect(block.t).toHaveLength(6)
    expect(block.channels['load']).toEqual([1000, NaN, -Infinity, Infinity, 1000, 1000])
    expect(block.channels['tip']).toEqual([Infinity, 0.002, 0.002, Infinity, 0.002, Infinity])
    expect(troubles.map(t => [t.code, t.role])).toEqual([
      ['overload', 'tip'],
      ['bad-cell', 'load'],
      ['overload', 'load'],
      ['overload', 'tip'],
      ['overload', 'tip'],
    ])
    expect(s.counts).toMatchObject({ badCells: 1, overloads: 5, garbage: 0 })
  })

  it('a line cut by a pause is joined when its rest comes, however late; a torn one never sets the clock', () => {
    const s = make(true)
    s.push('4520;1;1\n45', 10)
    // Nothing for a while, and then the rest.
    expect(s.push('', 19).block.t).toEqual([])
    expect(s.push('30;1;1\n', 20).block.t).toEqual([20])
    // Its beginning is lost: what is left looks like a line, and its stamp like a clock that began anew.
    const torn = s.push('2;1;1\n', 20.1)
    expect(torn.block.t).toEqual([])
    expect(s.push('1;1\n4530,2;1;1\n', 20.2).block.t).toEqual([expect.closeTo(20.2, 9)])
    expect(s.push('994530,3;1;1\n4530,4;1;1\n', 20.4).block.t).toEqual([expect.closeTo(20.4, 9)])
    expect(s.counts.garbage).toBe(3)
  })

  it('any pieces of any line, with any cells wrong, leave the clock and the other cells alone', () => {
    const words = ['', 'nan', 'ERR', 'OVL', '1;2;3;4', '-']
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(words.length - 1), fc.boolean()), { minLength: 5, maxLength: 60 }),
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 40 }),
        (lines, cuts) => {
          const s = make(true)
          const text = lines
            .map(([w, bad], i) => `${(100 + i / 10).toFixed(1)};${bad ? words[w] : '5'};${i}\n`)
            .join('')
          const got = { t: [] as number[], tip: [] as number[] }
          for (let at = 0, k = 0; at < text.length; k++) {
            const size = cuts[k % cuts.length]!
            // Each piece comes when its last line was said.
            const elapsed = (text.slice(0, at + size).match(/\n/g) ?? []).length / 10
            const { block } = s.push(text.slice(at, at + size), elapsed)
            got.t.push(...block.t)
            got.tip.push(...block.channels['tip']!)
            at += size
          }
          const whole = lines.flatMap(([w, bad], i) => (bad && words[w]!.includes(';') ? [] : [i]))
          expect(got.tip.map(v => Math.round(v * 1000))).toEqual(whole)
          const shift = got.t.length > 0 ? got.t[0]! - whole[0]! / 10 : 0
          got.t.forEach((t, k) => expect(t - shift).toBeCloseTo(whole[k]! / 10, 9))
        },
      ),
    )
  })

  it('lines without a stamp are stamped as they come, as far apart as planned', () => {
    const s = make(false)
    const { block } = s.push(';1;1\n;1;1\n;1;1\n', 5)
    expect(block.t).toEqual([expect.closeTo(4.8, 9), expect.closeTo(4.9, 9), 5])
  })
})

describe('a look at the channels while they are read', () => {
  const noise = (i: number) => Math.sin(12.9898 * i) * 1e-6
  function flagsOf(reading: (i: number) => number): string[] {
    const h = new LiveHealth({ labels: { g: 'Gauge' }, peaks: { g: 1e-3 }, rates: { g: 10 } })
    return Array.from({ length: 60 }, (_, b) => {
      const t = Array.from({ length: 10 }, (_, k) => b + k / 10)
      return h
        .feed(
          { t, channels: { g: t.map((_, k) => reading(10 * b + k)) } },
          { isZero: b < 10, quiet: false, isMoved: b >= 10 && b < 35 },
        )
        .map(f => `${f.code} at ${f.t}`)
    }).flat()
  }
  // Up from ten seconds on to a millistrain.
  const sound = (i: number) => Math.max(0, Math.min(1e-3, (i - 100) * 4e-6)) + noise(i)

  it('finds nothing in a sound gauge', () => expect(flagsOf(sound)).toEqual([]))
  it('finds one that stands still, two seconds on', () =>
    expect(flagsOf(i => (i > 200 ? sound(200) : sound(i)))).toEqual(['still at 22.1']))
  it('finds one that gives no number', () =>
    expect(flagsOf(i => (i > 200 && i < 230 ? NaN : sound(i)))[0]).toMatch(/^silent at 21\.\d/))
  it('compares a way with the ways before, and a hold with the holds', () => {
    // A gauge that shakes while it moves, as all of its kind do, and one that begins to.
    const h = new LiveHealth({ labels: { g: 'Gauge' }, peaks: { g: 1e-3 }, rates: { g: 10 } })
    const told: string[] = []
    for (let b = 0; b < 80; b++) {
      const [isZero, isMoved] = [b < 10, b >= 10 && b % 20 < 10]
      const shake = isMoved ? 30 : b >= 70 ? 60 : 1
      const t = Array.from({ length: 10 }, (_, k) => b + k / 10)
      const g = t.map((_, k) => shake * noise(10 * b + k))
      told.push(...h.feed({ t, channels: { g } }, { isZero, isMoved, quiet: false }).map(f => f.note))
    }
    expect(told).toEqual([expect.stringMatching(/^Gauge is \d+ times as noisy as on the holds before$/)])
    // What is set is no gauge.
    expect(h.feed({ t: [90], channels: { lift: [NaN] } }, { isZero: false, isMoved: true, quiet: false })).toEqual([])
  })
  it('finds one that jumps, and one that grows noisy', () => {
    expect(flagsOf(i => sound(i) + (i > 300 ? 3e-4 : 0))[0]).toBe('jumped at 30.1')
    expect(flagsOf(i => sound(i) + (i > 300 ? 30 * noise(i) : 0))[0]).toMatch(/^noisy at 3\d/)
  })
})

it('a window that slides knows its slope and its peak at any length', () => {
  const w = new SlidingWindow(2)
  // Late times, so that sums about zero would lose digits.
  for (let i = 0; i < 50_000; i++) w.push(1e6 + i / 1000, 3 * (i / 1000) + (i === 49_000 ? 500 : 0))
  expect(w.n).toBe(2001)
  expect(w.max).toBeCloseTo(3 * 49 + 500, 9)
  for (let i = 50_000; i < 52_000; i++) w.push(1e6 + i / 1000, 3 * (i / 1000))
  expect(w.slope).toBeCloseTo(3, 6)
  expect(w.max).toBeCloseTo(3 * 51.999, 6)
})

it(
  'the next rung is projected from the calculation first, then from the readings, whose band is that of ' +
    'their scatter',
  () => {
    const hold = (rung: number, load: number, reading: number) => ({ rung, load, reading })
    const first = project([hold(0, 0, 0), hold(1, 100, 1.1)], 200, { slope: 0.01, band: 0.1 }, 0.05)
    expect(first).toMatchObject({
      from: 'calculation',
      value: 2.2,
      half: expect.closeTo(Math.hypot(0.22, 0.05), 9) as number,
    })
    // Draper & Smith’s band by hand: residuals ±0.01 about 0.011·x.
    const { value, half, from } = project(
      [hold(0, 0, 0.01), hold(1, 100, 1.09), hold(2, 200, 2.19), hold(3, 300, 3.31)],
      400,
      { slope: 0.01, band: 0.1 },
      null,
    )
    expect(from).toBe('readings')
    expect(value).toBeCloseTo(4.4, 2)
    expect(half).toBeGreaterThan(0.05)
    expect(half).toBeLessThan(0.2)
  },
)
