import { describe, expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { reduceRecord, runReduce, type StoredRecord } from '../index'
import type { SensorSpecification } from '../uncertainty/sensor'

/** A beam loaded by seven cells in steps to 7 kN and back: what each channel reads is known at every second. */
const LEVELS = [0, 1400, 2800, 4200, 5600, 7000, 0]
const CELLS = ['LC1', 'LC2', 'LC3', 'LC4', 'LC5', 'LC6', 'LC7']
const HOLD = 20
const RAMP = 10
const rows = Array.from({ length: LEVELS.length * (HOLD + RAMP) * 2 }, (_, i) => i / 2)
const loadAt = (s: number) => {
  const k = Math.floor(s / (HOLD + RAMP))
  const into = s - k * (HOLD + RAMP)
  const [own, next] = [LEVELS[k]!, LEVELS[k + 1] ?? 0]
  return into <= HOLD ? own : own + ((next - own) * (into - HOLD)) / RAMP
}
const column = (f: (load: number, s: number) => number) => Float64Array.from(rows, s => f(loadAt(s), s))
const record = (): StoredRecord => ({
  columns: {
    t: Float64Array.from(rows),
    ...Object.fromEntries(CELLS.map((c, i) => [c, column(load => load / 7 + i)])),
    deflection: column(load => load * 2e-6 + 0.001),
  },
  units: { t: 's', deflection: 'm', ...Object.fromEntries(CELLS.map(c => [c, 'N'])) },
  labels: {},
  hasClock: true,
  name: 'A',
  aliases: { Weg: 'deflection' },
  beside: {
    // Two clinometers’ laser spots on a span of 1.27 m, and a gauge that had 12 µε before it was loaded.
    LL1: { y: column(load => load * 4e-6), unit: 'm', isStrain: false },
    LL5: { y: column(load => load * 1e-6), unit: 'm', isStrain: false },
    SG4: { y: column(load => 12e-6 + load * 3e-7), unit: '1', isStrain: true },
    // It leaks 2 Pa a second for as long as it is loaded.
    P: { y: column((_, s) => 1e5 - 2 * s), unit: 'Pa', isStrain: false },
  },
})
const SETTINGS = {
  zeroStart: [2, 18],
  zeroEnd: [185, 195],
  holdTolerance: 20,
  derive: [{ role: 'load', expression: CELLS.join(' + ') }],
}
const reduce = (own: unknown[], sensors: Record<string, SensorSpecification> = {}, view: unknown = null) =>
  reduceRecord('static', record(), { ...SETTINGS, own }, { plan: null, view: view as never, sensors }).output
const sensor = (u: number, fullScale: number): SensorSpecification => ({ fullScale, certificate: { U: 2 * u, k: 2 } })

describe('results of one’s own', () => {
  it('are read where it was asked, with the zero of the others taken off', () => {
    const { results, own } = reduce([
      { name: 'Strain at 4.2 kN', channel: 'SG4', at: { load: { value: 4.2, unit: 'kN' } } },
      { name: 'Strain between steps', channel: 'SG4', at: { load: 3500 } },
      { name: 'Rotation', expression: '(LL1 - LL5) / 1.27 m', at: 'peak' },
      { name: 'Tip, fourth step', channel: 'Weg', at: { step: 4 } },
      { name: 'As read', channel: 'Weg', at: { step: 4 }, zero: null },
      { name: 'Largest', channel: 'LL1', at: 'largest' },
      { name: 'Range', channel: 'LL1', at: 'range' },
      { name: 'At 40 s', channel: 'P', at: { time: 40 }, zero: null },
      { name: 'Leak', channel: 'P', at: { slope: 't' } },
      { name: 'Leak over a step', channel: 'P', at: { creep: 2 } },
      { name: 'Gauge factor', channel: 'SG4', at: { slope: 'load', between: [1000, 6000] } },
      { name: 'Set', channel: 'LL5', at: 'set' },
      { name: 'At the end', channel: 'LL5', at: 'end' },
    ])
    const value = (name: string) => results[name]!.value!
    expect(value('Strain at 4.2 kN')).toBeNear(4200 * 3e-7, 1e-9)
    expect(value('Strain between steps')).toBeNear(3500 * 3e-7, 1e-9)
    expect(results['Rotation']).toMatchObject({ unit: '1' })
    expect(value('Rotation')).toBeNear((7000 * 3e-6) / 1.27, 1e-9)
    expect(value('Tip, fourth step')).toBeNear(4200 * 2e-6, 1e-9)
    expect(value('As read')).toBeNear(4200 * 2e-6 + 0.001, 1e-9)
    expect(value('Largest')).toBeNear(7000 * 4e-6, 1e-9)
    expect(value('Range')).toBeNear(7000 * 4e-6, 1e-9)
    expect(value('At 40 s')).toBe(1e5 - 80)
    expect(results['Leak']!.unit).toBe('Pa/s')
    expect(value('Leak')).toBeNear(-2, 1e-9)
    // From the middle of the first tenth to that of the last.
    expect(value('Leak over a step')).toBeLessThan(-30)
    expect(value('Gauge factor')).toBeNear(3e-7, 1e-9)
    expect(Math.abs(value('Set'))).toBeLessThan(1e-12)
    expect(own).toMatchObject({
      'Strain at 4.2 kN': { kind: 'strain' },
      'Tip, fourth step': { kind: 'length' },
      'Gauge factor': { kind: null },
    })
    // The sum of seven cells is the load that the other results go by.
    expect(results['maxLoad']!.value).toBeNear(7000, 1e-9)
  })

  it('have the uncertainty of the sensors that they are read by, through expressions', () => {
    const u = 1e-5
    const { results } = reduce(
      [
        { name: 'Rotation', expression: '(LL1 - LL5) / 1.27 m', at: 'peak' },
        { name: 'Alone', channel: 'LL1', at: 'peak', zero: null },
        { name: 'Nobody knows', channel: 'SG4', at: 'peak' },
      ],
      { LL1: sensor(u, 0.1), LL5: sensor(u, 0.1), ...Object.fromEntries(CELLS.map(c => [c, sensor(2, 2000)])) },
    )
    // A certificate is half zero and half gain: of a zeroed reading gain alone is left, of one as it is both.
    const part = (result: string, name: string) => results[result]!.parts!.find(p => p.name === name)?.u ?? 0
    const half = u / Math.SQRT2
    expect(part('Alone', 'LL1: zero')).toBeNear(half, 1e-6)
    expect(part('Alone', 'LL1: gain')).toBeNear(half, 1e-6)
    for (const gauge of ['LL1', 'LL5']) {
      expect(part('Rotation', `${gauge}: gain`)).toBeNear(half / 1.27, 1e-6)
      expect(part('Rotation', `${gauge}: zero`)).toBe(0)
    }
    expect(results['Nobody knows']!.u).toBeUndefined()
    // Seven cells, each with a gain of its own.
    for (const [i, cell] of CELLS.entries())
      expect(part('maxLoad', `${cell}: gain`)).toBeNear((Math.SQRT2 * 1000) / (1000 + i), 1e-6)
  })

  it('stand at a rung of the plan, where a step does', () => {
    const view = { rungs: [{ target: 1400 }, { target: 4200 }, { target: 9000 }], channels: [] }
    const { results, warnings } = reduce(
      [2, 3, 4].map(rung => ({ name: `Rung ${rung}`, channel: 'LL1', at: { rung } })),
      {},
      view,
    )
    expect(results['Rung 2']!.value).toBeNear(4200 * 4e-6, 1e-9)
    expect([results['Rung 3']!.value, results['Rung 4']!.value]).toEqual([null, null])
    expect(warnings.filter(w => w.code === 'no-own-result').map(w => w.message)).toEqual([
      'Rung 3: no step stands at rung 3 (9000 N).',
      'Rung 4: the plan has no rung 4.',
    ])
  })

  it('are refused with their place, and given as none with the reason', () => {
    const says = (own: unknown) => {
      const { code, place } = refusal(() => reduce([own]))
      return [code, place.path]
    }
    expect(says({ name: 'x', channel: 'LL9', at: 'peak' })).toEqual(['unknown-channel', 'settings.own.0.channel'])
    expect(says({ name: 'x', expression: 'LL1 + P', at: 'peak' })[0]).toBe('unit-dimension')
    expect(says({ name: 'maxLoad', channel: 'LL1', at: 'peak' })).toEqual(['setting-range', 'settings.own.0.name'])
    expect(says({ name: 'x', channel: 'LL1', at: 'summit' })).toEqual(['setting-range', 'settings.own.0.at'])
    expect(says({ name: 'x', channel: 'LL1' })[0]).toBe('missing-setting')
    expect(says({ name: 'x', channel: 'LL1', at: { load: { value: 3, unit: 'mm' } } })[0]).toBe('unit-dimension')
    expect(says({ name: 'x', at: 'peak' })).toEqual(['missing-setting', 'settings.own.0.channel'])
    const { results, warnings } = reduce([{ name: 'Far', channel: 'LL1', at: { load: 9000 } }])
    expect(results['Far']!.value).toBeNull()
    expect(warnings.at(-1)).toEqual({ code: 'no-own-result', message: 'Far: the load does not come to it.' })
  })

  it('come from a file by the command’s own way', () => {
    const text = [
      'Time [s],F [N],D [mm],G [µε]',
      ...rows.map(s => [s, loadAt(s), loadAt(s) / 500, loadAt(s) * 0.3].join()),
    ]
    const output = runReduce(
      {
        family: 'static',
        channels: {
          t: { column: 'Time [s]', unit: 's' },
          load: { column: 'F [N]', unit: 'N' },
          deflection: { column: 'D [mm]', unit: 'mm' },
          gauge: { column: 'G [µε]', unit: 'µε' },
        },
        settings: {
          zeroStart: [2, 18],
          holdTolerance: 20,
          own: [{ name: 'gauge at 4.2 kN', channel: 'gauge', at: { load: 4200 } }],
        },
      } as never,
      new TextEncoder().encode(text.join('\n')),
    )
    expect(output.results['gauge at 4.2 kN']!.value).toBeNear(4200 * 3e-7, 1e-9)
  })
})
