import { describe, expect, it } from 'vitest'
import { channelSchema } from '../plan/channels'
import { watchField, watchFindings } from '../plan/watch'
import { Tare } from './tare'
import { Watcher, type WatchState } from './watcher'

const channels = [
  { role: 'load', label: 'Load', kind: 'force' },
  { role: 'tip', label: 'Tip', kind: 'length', twin: 'tip2' },
  { role: 'tip2', label: 'Tip, other', kind: 'length' },
].map(c => channelSchema.parse({ ...c, sensorId: null }))
const rules = (...list: object[]) => watchField.parse(list)
const NOTHING = Object.fromEntries(['load', 'tip', 'tip2'].map(role => [role, { mean: 0, sd: 0, n: 1 }]))
/** Rules, with the zero of the first reading. */
const watcher = (...list: object[]) => {
  const tare = new Tare('load', 1000)
  const w = new Watcher({
    rules: rules(...list),
    channels,
    commanded: 'load',
    maxTarget: 1000,
    zeroOf: role => tare.zeroOf(role),
  })
  const feed = w.feed.bind(w)
  w.feed = (b, now) => {
    // A record that begins further up counts from nothing.
    if (now.rung > 0 && !tare.taken)
      if (Object.keys(tare.take(b.t[0]!).zeros).length === 0) tare.set({ t: 0, zeros: NOTHING })
    tare.feed(b)
    return feed(b, now)
  }
  return w
}
/** Ten samples a second from t0; a load and what the two tips read. */
const block = (t0: number, loads: number[], tip: (load: number, i: number) => number, tip2 = tip) => ({
  t: loads.map((_, i) => t0 + i / 10),
  channels: { load: loads, tip: loads.map(tip), tip2: loads.map(tip2) },
})
const at = (rung: number, isHold = true): WatchState => ({ rung, isHold })
const ramp = (from: number, to: number, n: number) =>
  Array.from({ length: n }, (_, i) => from + ((to - from) * (i + 1)) / n)

describe('watch rules', () => {
  it('count from the zero of the first rung, speak once, and name the sample that crossed', () => {
    const w = watcher({ kind: 'limit', role: 'tip', value: { value: 5.5, unit: 'mm' } })
    // An offset of 20 mm is no reading.
    expect(
      w.feed(
        block(0, [0, 0, 0], () => 0.02),
        at(0),
      ),
    ).toEqual([])
    expect(
      w.feed(
        block(1, [100, 200, 300], l => 0.02 + l * 1e-5),
        at(1),
      ),
    ).toEqual([])
    const crossed = w.feed(
      block(2, [400, 500, 600, 700], l => 0.02 + l * 1e-5),
      at(1),
    )
    expect(crossed).toMatchObject([{ rule: 0, role: 'tip', action: 'hold', t: 2.2 }])
    expect(crossed[0]!.note).toMatch(/Tip reads 6\.00\smm, beyond 5\.50\smm: ladder held/)
    expect(
      w.feed(
        block(3, [900], l => 0.02 + l * 1e-5),
        at(1),
      ),
    ).toEqual([])
    w.arm(0)
    expect(
      w.feed(
        block(4, [900], l => 0.02 + l * 1e-5),
        at(1),
      ),
    ).toHaveLength(1)
  })

  it('watch from the first sample, count an overload as beyond, and say nothing of what comes down', () => {
    const w = watcher(
      { kind: 'limit', role: 'tip', value: { value: 5.5, unit: 'mm' } },
      { kind: 'failure', role: 'load', value: { value: 50, unit: '%' } },
    )
    // Pulled before the first rung is over.
    expect(
      w.feed(
        block(0, [0, 0, 0], (_, i) => 0.02 + 0.002 * i),
        at(0),
      ),
    ).toMatchObject([])
    expect(
      w.feed(
        block(1, [0], () => 0.03),
        at(0),
      ),
    ).toMatchObject([{ rule: 0, t: 1 }])
    w.arm(0)
    const [over] = w.feed(
      block(2, [400], () => -Infinity),
      at(1),
    )
    expect(over).toMatchObject({ rule: 0, action: 'hold' })
    expect(over!.note).toMatch(/^Tip is beyond what can be read, and so beyond 5\.50\smm: ladder held$/)
    expect(
      w.feed(
        block(3, [800, 300, 100], () => 0.02),
        { ...at(2, false), isUnloading: true },
      ),
    ).toEqual([])
    expect(
      w.feed(
        block(4, [800, 300], () => 0.02),
        at(2, false),
      ),
    ).toMatchObject([{ rule: 1 }])
  })

  it('twins that part must stay parted as long as the rule says', () => {
    const w = watcher({ kind: 'twin', role: 'tip', value: { value: 1, unit: 'mm' }, lasts: 0.5, action: 'warn' })
    const same = (l: number) => l * 1e-5
    expect(w.feed(block(0, [100, 100], same), at(1))).toEqual([])
    // One glitch of three samples is none.
    expect(
      w.feed(
        block(1, Array(10).fill(100), same, (l, i) => same(l) - (i < 3 ? 0.002 : 0)),
        at(1),
      ),
    ).toEqual([])
    expect(
      w.feed(
        block(2, Array(10).fill(100), same, l => same(l) - 0.002),
        at(1),
      ),
    ).toMatchObject([{ action: 'warn', t: expect.closeTo(2.5, 9) as number }])
  })

  it('twins of two rates are compared where the slower one is read: a ramp is no disagreement', () => {
    const found = [0, 0.004].map(off => {
      const w = new Watcher({
        rules: rules({ kind: 'twin', role: 'tip', value: { value: 1, unit: 'mm' }, action: 'hold' }),
        channels,
        commanded: 'load',
        maxTarget: 1000,
        rates: { load: 100, tip: 100, tip2: 2 },
        zeroOf: () => 0,
      })
      // 5 mm a second; the slow one was last read half a second ago, 2.5 mm below.
      return Array.from({ length: 20 }, (_, i) => {
        const t = Array.from({ length: 10 }, (_x, k) => i / 10 + k / 100)
        const slow = i % 5 === 0 ? w.feed({ t: [i / 10], channels: { tip2: [i * 5e-4 + off] } }, at(1)) : []
        return [...slow, ...w.feed({ t, channels: { load: t, tip: t.map(s => 5e-3 * s) } }, at(1))]
      }).flat()
    })
    expect(found[0]).toEqual([])
    expect(found[1]).toMatchObject([{ action: 'hold', role: 'tip tip2', t: expect.closeTo(0, 9) as number }])
  })

  it('a channel that is derived is watched like one that is read', () => {
    const turn = channelSchema.parse({ role: 'turn', label: 'Turn', kind: 'ratio', expression: '(tip - tip2) / 1' })
    expect(watchFindings(rules({ kind: 'limit', role: 'turn', value: 0.01 }), [...channels, turn])).toEqual([])
  })

  it('a reading that leaves the line of the first half is a loss of stiffness', () => {
    const w = watcher({ kind: 'line', role: 'tip', value: { value: 10, unit: '%' }, action: 'abort' })
    const soft = (l: number) => l * 1e-5 * (l > 700 ? 1 + (l - 700) / 1000 : 1)
    expect(w.feed(block(0, ramp(0, 790, 79), soft), at(2, false))).toEqual([])
    // 10 % off at 800 N, and just beyond.
    expect(w.feed(block(8, ramp(790, 1000, 21), soft), at(2, false))).toMatchObject([
      { action: 'abort', t: expect.closeTo(8.1, 9) as number },
    ])
  })

  it('a fall in a hold is a leak, one on the way down is none; a break is a fall from the peak', () => {
    const w = watcher(
      { kind: 'leak', role: 'load', value: { value: 20, unit: 'N/s' } },
      { kind: 'failure', role: 'load', value: { value: 50, unit: '%' } },
    )
    expect(
      w.feed(
        block(0, ramp(900, 500, 20), l => l),
        at(3, false),
      ),
    ).toEqual([])
    expect(
      w.feed(
        block(2, ramp(500, 485, 15), l => l),
        at(3),
      ),
    ).toEqual([])
    expect(
      w
        .feed(
          block(4, ramp(485, 440, 15), l => l),
          at(3),
        )
        .map(c => c.rule),
    ).toEqual([0])
    expect(
      w
        .feed(
          block(6, [440, 430, 150], l => l),
          at(3),
        )
        .map(c => [c.rule, c.t]),
    ).toEqual([[1, 6.2]])
  })

  it('that cannot be are said where they are', () => {
    const found = watchFindings(
      rules(
        { kind: 'limit', role: 'nose', value: 1 },
        { kind: 'twin', role: 'load', value: 1 },
        { kind: 'rate', role: 'tip', value: { value: 1, unit: 'mm' } },
        { kind: 'line', role: 'tip', value: 0.1 },
      ),
      channels,
    )
    expect(found.map(f => `${f.code} ${f.path}`)).toEqual([
      'watch-channel watch.0.role',
      'watch-twin watch.1.role',
      'unit-dimension watch.2.value',
    ])
  })

  it('a channel at 95 % of its sensor’s range holds the ladder, whatever the plan says, counted from nothing', () => {
    const w = new Watcher({
      rules: [],
      channels,
      commanded: 'load',
      maxTarget: 1000,
      ranges: { tip2: 0.2 },
      zeroOf: () => 0,
    })
    expect(
      w.feed(
        block(
          0,
          [0, 0],
          () => 0,
          () => 0.189,
        ),
        at(0),
      ),
    ).toEqual([])
    expect(
      w.feed(
        block(
          1,
          [100],
          () => 0,
          () => -0.191,
        ),
        at(1),
      ),
    ).toMatchObject([{ role: 'tip2', action: 'hold', t: 1 }])
    expect(
      w.feed(
        block(
          2,
          [100],
          () => 0,
          () => -0.191,
        ),
        at(1),
      ),
    ).toEqual([])
  })

  it(
    'growth that runs towards an instability is seen before it: the critical load, with its band, to ' +
      'some per cent',
    () => {
      const w = watcher({ kind: 'onset', role: 'tip', value: { value: 75, unit: '%' }, action: 'abort' })
      // Southwell: δ = δ₀·P/(Pc − P) with Pc = 1150 N, and a micrometre of noise.
      const growth = (l: number, i: number) => (0.002 * l) / (1150 - l) + 1e-6 * Math.sin(37 * i)
      const crossed = w.feed(block(0, ramp(0, 1000, 2000), growth), at(1, false))
      expect(crossed).toHaveLength(1)
      expect(crossed[0]!.t).toBeCloseTo((0.75 * 1150) / 5, -1)
      const { onset } = w.estimates()[0]!
      expect(onset!.critical / 1150).toBeNear(1, 0.0001)
      expect(Math.abs(onset!.critical - 1150)).toBeLessThan(Math.max(2 * onset!.half, 12))
      // What merely bends in proportion has no critical load.
      const straight = watcher({ kind: 'onset', role: 'tip', value: { value: 75, unit: '%' } })
      expect(
        straight.feed(
          block(0, ramp(0, 1000, 2000), (l, i) => l * 1e-5 + 1e-6 * Math.sin(37 * i)),
          at(1, false),
        ),
      ).toEqual([])
    },
  )

  it('a temperature tells where it is heading, and when it is there', () => {
    const hot = [
      { role: 'load', label: 'Power', kind: 'power' },
      { role: 'tip', label: 'Case', kind: 'temperature' },
    ].map(c => channelSchema.parse({ ...c, sensorId: null }))
    const list = rules(
      { kind: 'heads-for', role: 'tip', value: { value: 75, unit: '°C' }, action: 'hold' },
      { kind: 'steady', role: 'tip', value: { value: 1, unit: 'K' }, action: 'warn' },
    )
    const w = new Watcher({ rules: list, channels: hot, commanded: 'load', maxTarget: 1000, zeroOf: () => 0 })
    // 20 °C to 80 °C with a time constant of 100 s, noise of 0.05 K.
    const heating = (t0: number) => ({
      t: Array.from({ length: 10 }, (_, i) => t0 + i / 10),
      channels: {
        load: Array<number>(10).fill(800),
        tip: Array.from(
          { length: 10 },
          (_, i) => 353.15 - 60 * Math.exp(-(t0 + i / 10) / 100) + 0.05 * Math.sin(91 * (t0 * 10 + i)),
        ),
      },
    })
    const crossed = Array.from({ length: 600 }, (_, t0) => w.feed(heating(t0), at(1))).flat()
    expect(crossed.map(c => [c.rule, c.action])).toEqual([
      [0, 'hold'],
      [1, 'warn'],
    ])
    // Seen while it is still far below the limit.
    expect(crossed[0]!.t).toBeLessThan(100)
    expect(crossed[0]!.note).toMatch(/Case is heading for (7[6-9]|8[0-4])\.\d\s°C/)
    // 1 K is left of 60 K after 4.1 time constants.
    expect(crossed[1]!.t).toBeGreaterThan(380)
    expect(crossed[1]!.t).toBeLessThan(520)
    expect(w.estimates()[1]!.approach!.timeConstant).toBeCloseTo(100, -1)
  })

  it('the next rung is held back when a reading is projected beyond its limit there, before it is commanded', () => {
    const w = watcher({ kind: 'next-rung', role: 'tip', value: { value: 42, unit: 'mm' }, action: 'hold', lasts: 0.5 })
    // Rungs of 200, 400, 600, 800; the reading goes with the square: 25.6 mm at 800, 40 mm at 1000.
    const hold = (rung: number, next: number | null, scale = 1) => {
      const load = 200 * rung
      const tip = scale * 0.04 * (load / 1000) ** 2
      return Array.from({ length: 50 }, (_, k) =>
        w.feed(
          { group: 0, t: [10 * rung + k / 10], channels: { load: [load], tip: [tip] } },
          { rung, isHold: true, next },
        ),
      ).flat()
    }
    expect([hold(1, 400), hold(2, 600), hold(3, 800), hold(4, 1000)].flat()).toEqual([])
    // The same with a reading a tenth larger: 44 mm would come.
    const other = watcher({
      kind: 'next-rung',
      role: 'tip',
      value: { value: 42, unit: 'mm' },
      action: 'hold',
      lasts: 0.5,
    })
    const crossed = [1, 2, 3, 4].flatMap(rung =>
      Array.from({ length: 50 }, (_, k) =>
        other.feed(
          { group: 0, t: [10 * rung + k / 10], channels: { load: [200 * rung], tip: [0.044 * (rung / 5) ** 2] } },
          { rung, isHold: true, next: rung < 4 ? 200 * (rung + 1) : 1000 },
        ),
      ).flat(),
    )
    expect(crossed).toHaveLength(1)
    expect(crossed[0]).toMatchObject({ action: 'hold' })
    expect(crossed[0]!.note).toMatch(/would read 44\.0\smm at the next rung, beyond 42\.0\smm: ladder held/)
  })
})
