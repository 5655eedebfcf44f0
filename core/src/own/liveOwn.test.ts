import { describe, expect, it } from 'vitest'
import { reduceRecord, type DeclaredOwn, type StoredRecord } from '../index'
import { LiveDerived } from '../rig/liveDerived'
import { LiveOwn } from './liveOwn'

/** Up to 6 kN in three holds of 20 s and back, ten samples a second; a gauge that leaks, one that follows the load. */
const RATE = 10
const LEVELS = [0, 2000, 4000, 6000, 0]
const [HOLD, RAMP] = [20, 10]
const t = Array.from({ length: LEVELS.length * (HOLD + RAMP) * RATE }, (_, i) => i / RATE)
const placeAt = (s: number) => {
  const k = Math.floor(s / (HOLD + RAMP))
  const into = s - k * (HOLD + RAMP)
  const [own, next] = [LEVELS[k]!, LEVELS[k + 1] ?? 0]
  const load = into <= HOLD ? own : own + ((next - own) * (into - HOLD)) / RAMP
  return { load, rung: k, isHeld: into <= HOLD }
}
const load = t.map(s => placeAt(s).load + 15)
const strain = t.map((s, i) => 1e-5 + 2e-7 * placeAt(s).load + 1e-7 * Math.sin(i))
const tip = t.map(s => 0.002 + 3e-6 * placeAt(s).load ** 1.01)
const channels = { load, strain, tip }
const KINDS = { load: 'force', strain: 'strain', tip: 'length' } as const
const OWN: DeclaredOwn[] = [
  { name: 'At 3.3 kN', channel: 'strain', at: { load: { value: 3.3, unit: 'kN' } }, kind: 'strain' },
  { name: 'Peak', expression: 'tip / 2', at: 'peak', kind: 'length' },
  { name: 'Second rung', channel: 'strain', at: { rung: 3 }, kind: 'strain' },
  { name: 'Largest', channel: 'tip', at: 'largest', kind: 'length', zero: null },
  { name: 'Range', channel: 'tip', at: 'range', kind: 'length' },
  { name: 'At 41.03 s', channel: 'strain', at: { time: 41.03 }, kind: 'strain' },
  { name: 'Mean', channel: 'tip', at: { mean: [62, 78] }, kind: 'length' },
  { name: 'Gain', channel: 'strain', at: { slope: 'load' }, kind: 'strain' },
  { name: 'End', channel: 'tip', at: 'end', kind: 'length' },
  { name: 'Creep', channel: 'tip', at: { creep: 2 }, kind: 'length' },
  { name: 'Elsewhere', channel: 'SG99', at: 'peak', kind: 'strain' },
  { name: 'In hours', channel: 'strain', at: { load: { value: 2, unit: 'h' } }, kind: 'strain' },
]
const mean = (v: readonly number[], from: number, to: number) =>
  (part => part.reduce((s, x) => s + x, 0) / part.length)(v.filter((_, i) => t[i]! >= from && t[i]! <= to))

/** Played in blocks, counted from the mean over the zero window; with what is told on the way. */
function play(limits: ConstructorParameters<typeof LiveOwn>[0]['limits'] = [], own = OWN) {
  const derived = new LiveDerived(LiveOwn.readings(own), { load: RATE, strain: RATE, tip: RATE })
  const all = derived.feed({ t, channels }).channels
  const live = new LiveOwn({
    own,
    limits,
    channels: Object.entries(KINDS).map(([role, kind]) => ({ role, kind })),
    guide: 'load',
    zeroOf: role => mean(all[role]!, 2, 18),
    show: si => String(si),
  })
  const anew = new LiveDerived(LiveOwn.readings(own), { load: RATE, strain: RATE, tip: RATE })
  const told: { t: number; note: string }[] = []
  for (let i = 0; i < t.length; i++) {
    const block = { t: [t[i]!], channels: { load: [load[i]!], strain: [strain[i]!], tip: [tip[i]!] } }
    const { rung, isHeld } = placeAt(t[i]!)
    told.push(...live.feed(anew.feed(block), { rung, phase: isHeld ? 'hold' : 'ramp' }))
  }
  return { live, told }
}

describe('results of one’s own while a run goes on', () => {
  it('come to what the record is reduced to', () => {
    const { live } = play()
    const record: StoredRecord = {
      columns: {
        t: Float64Array.from(t),
        load: Float64Array.from(load),
        deflection: Float64Array.from(tip),
        strain: Float64Array.from(strain),
        tip: Float64Array.from(tip),
      },
      units: { t: 's', load: 'N', deflection: 'm', strain: '1', tip: 'm' },
      labels: {},
      hasClock: true,
      name: 'A',
      strains: ['strain'],
    }
    const told = OWN.slice(0, 9)
    const asked = told.map(({ kind: _, ...o }) => o)
    const view = { rungs: LEVELS.map(target => ({ target })) }
    const settings = { zeroStart: [2, 18], zeroEnd: [142, 148], holdTolerance: 20, own: asked }
    const { results } = reduceRecord('static', record, settings, {
      plan: null,
      view: view as never,
      sensors: {},
    }).output
    const now = live.now()
    for (const [i, o] of told.entries()) {
      // The mean of a rung takes the whole hold, that of a step what stands still of it.
      const within = o.name === 'Second rung' ? 5e-8 : 1e-6 * Math.abs(results[o.name]!.value!)
      expect(Math.abs(now[i]!.value! - results[o.name]!.value!), o.name).toBeLessThan(within)
    }
  })

  it('say why they have none', () => {
    const notes = Object.fromEntries(
      play()
        .live.now()
        .map(r => [r.name, [r.value, r.note]]),
    )
    expect(notes['Creep']).toEqual([null, 'from the whole record, after the run'])
    expect(notes['Elsewhere']).toEqual([null, 'this run has no channel “SG99”'])
    expect(notes['In hours']).toEqual([null, 'This must be in a unit like N.'])
  })

  it('tell once that a limit is passed: a maximum at once, a minimum when the value has come to stay', () => {
    const { live, told } = play([
      { quantity: 'Largest', name: 'Clearance', comparator: 'atMost', value: 0.01 },
      { quantity: 'At 3.3 kN', name: 'Works at all', comparator: 'atLeast', value: 7e-4 },
      { quantity: 'End', name: 'Springs back', comparator: 'atLeast', value: 0.001 },
    ])
    // The tip is beyond 10 mm on the way from 2 to 4 kN, before 3.3 kN are on.
    expect(told.map(x => x.note)).toEqual([
      expect.stringMatching(/^Largest is 0\.010\d+, beyond the 0\.01 of “Clearance”$/),
      expect.stringMatching(/^At 3\.3 kN is 0\.00065\d+, below the 0\.0007 of “Works at all”$/),
    ])
    expect(
      live
        .now()
        .map(r => r.limit?.isBroken ?? false)
        .filter(Boolean),
    ).toHaveLength(2)
  })
})
