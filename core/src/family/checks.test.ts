import { describe, expect, it } from 'vitest'
import { families } from '../registry/methods'
import { proposeFor, reduceRecord } from '../registry/reduceRecord'
import { SeededRandom } from '../statistics/random'
import { checkSettings } from './checks'

/** Ten seconds of rest, a ramp to 5 kN, a hold, and back; with an offset, noise, and either sign. */
function climbed({ noise = 0, offset = 0, sign = 1 } = {}) {
  const random = new SeededRandom(7)
  const t = Float64Array.from({ length: 600 }, (_, i) => i / 10)
  const shape = (s: number) => (s < 10 ? 0 : s < 20 ? (s - 10) / 10 : s < 40 ? 1 : s < 50 ? (50 - s) / 10 : 0)
  return { t, channels: { load: t.map(s => offset + sign * 5000 * shape(s) + noise * random.normal()) }, units: {} }
}
const check = (made: ReturnType<typeof climbed>, settings: object) =>
  checkSettings({ checked: { load: 'load', steady: ['holds'] } }, made, settings as never)

describe('looking at a window', () => {
  it.each([{}, { noise: 40 }, { offset: 700 }, { offset: -700, noise: 40 }, { sign: -1, noise: 40, offset: 300 }])(
    'tells a zero without load from one under it: %o',
    made => {
      const [rest] = check(climbed(made), { zeroStart: [1, 9] })
      expect(rest).toMatchObject({ ok: true, words: expect.stringMatching(/^load here is .* % of the largest$/) })
      const [loaded] = check(climbed(made), { zeroStart: [25, 35] })
      expect(loaded!.ok).toBe(false)
      expect(loaded!.words).toMatch(/^this window carries (9\d|1\d\d) % of the largest load$/)
      const [moving] = check(climbed(made), { zeroStart: [8, 11.5] })
      expect(moving!.ok).toBe(false)
      expect(check(climbed(made), { zeroEnd: [52, 58] })[0]!.ok).toBe(true)
      expect(check(climbed(made), { zeroEnd: [38, 45] })[0]!.ok).toBe(false)
    },
  )

  it.each([{}, { noise: 40 }])('tells a hold that ends before the ramp from one that does not: %o', made => {
    const [whole, late, early] = check(climbed(made), {
      holds: [
        [22, 38],
        [24, 42],
        [18, 36],
      ],
    })
    expect(whole).toMatchObject({ path: 'holds.0', ok: true })
    expect(late).toMatchObject({ ok: false, words: expect.stringContaining('last tenth') })
    expect(early).toMatchObject({ ok: false, words: expect.stringContaining('first tenth') })
  })

  it('finds nothing wrong with a leak along a hold, and says where nothing is read', () => {
    const made = climbed()
    made.channels.load = made.channels.load.map((v, i) => (i > 200 && i < 400 ? v - 2 * (i - 200) : v))
    expect(check(made, { holds: [[22, 38]] })[0]!.ok).toBe(true)
    expect(check(made, { zeroStart: [70, 80] })).toEqual([
      { path: 'zeroStart', ok: false, words: 'no reading lies in this window' },
    ])
  })

  it('offers the range in which a curve stays straight, and says how bent the one taken is', () => {
    const { t, channels } = climbed({ noise: 10, offset: 120 })
    // Straight to half of the largest load, twice as soft beyond it.
    const bent = channels.load.map(v => 1e-5 * (v - 120 + Math.max(0, v - 120 - 2500)))
    const look = (deflection: Float64Array, stiffnessRange: [number, number]) =>
      checkSettings(families['static']!, { t, channels: { ...channels, deflection }, units: {} }, { stiffnessRange })
    const [offered] = look(bent, [0.1, 0.8])
    expect(offered).toMatchObject({ ok: true, words: expect.stringMatching(/^off its line by \d/) as string })
    expect(offered!.offer!.value[0]).toBe(0.1)
    expect(offered!.offer!.value[1]).toBeCloseTo(0.525, 1)
    const [taken] = look(bent, offered!.offer!.value)
    expect(taken!.offer).toBeUndefined()
    // One that is straight to its end is offered to its end.
    const straight = channels.load.map(v => 1e-5 * v)
    expect(look(straight, [0.1, 0.6])[0]!.offer!.value).toEqual([0.1, 1])
  })

  it('tells a window that holds its whole pulse from one that cuts it', () => {
    const t = Float64Array.from({ length: 1000 }, (_, i) => i * 1e-6)
    const incident = t.map(s => (s > 2e-4 && s < 5e-4 ? Math.sin((Math.PI * (s - 2e-4)) / 3e-4) : 0))
    const look = (incidentWindow: [number, number]) =>
      checkSettings(families['bar']!, { t, channels: { incident }, units: {} }, { incidentWindow })[0]
    expect(look([1.8e-4, 5.2e-4])).toMatchObject({ ok: true })
    expect(look([3e-4, 5.2e-4])).toMatchObject({ ok: false, words: expect.stringContaining('begins with') as string })
    expect(look([1.8e-4, 4e-4])).toMatchObject({ ok: false, words: expect.stringContaining('ends with') as string })
    expect(look([6e-4, 8e-4])).toMatchObject({ ok: false, words: 'no pulse lies in this window' })
  })

  it('passes what a kind of test proposes itself from a clean record', () => {
    const { t, channels } = climbed({ noise: 10, offset: 120 })
    const record = { columns: { t, force: channels.load }, units: {}, labels: {}, hasClock: true, name: 'A' }
    const settings = proposeFor('pull', record, { plan: null, outcome: 'article' })
    expect(settings['zeroStart']).toBeDefined()
    const table = { t, channels: { force: channels.load }, units: {} }
    expect(checkSettings(families['pull']!, table, settings).every(c => c.ok)).toBe(true)
  })
})

describe('rungs that were typed', () => {
  it('of a bag test, without a clock, give every result of the load and the sag', () => {
    const columns = {
      t: Float64Array.of(1, 2, 3, 4, 5),
      load: Float64Array.of(0, 200, 400, 600, 800),
      deflection: Float64Array.of(0, 0.004, 0.008, 0.012, 0.016),
    }
    const record = { columns, units: { load: 'N', deflection: 'm' }, labels: {}, hasClock: false, name: 'A' }
    const settings = { zeroStart: [0.5, 1.5], designLoad: 700, holdTolerance: 20 }
    const { output, checks } = reduceRecord('static', record, settings, { plan: null, view: null, sensors: {} })
    expect(checks).toMatchObject([{ path: 'zeroStart', ok: true }])
    expect(output.results['stiffness']!.value).toBeCloseTo(50_000, 6)
    expect(output.results['deflectionAtDesign']!.value).toBeCloseTo(0.014, 9)
    expect(output.results['maxLoad']).toMatchObject({ value: 800, bound: 'atLeast' })
    expect(output.warnings.map(w => w.code)).toContain('no-clock')
  })
})
