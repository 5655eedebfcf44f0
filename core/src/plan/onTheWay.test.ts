import { describe, expect, it } from 'vitest'
import { PROPERTIES } from '../fixtures/arm'
import { viewPlanOf } from '../index'

const q = (value: number, unit: string) => ({ value, unit })
const gauge = (role: string, more: object = {}) => ({ role, label: role, kind: 'length', x: q(1, 'm'), ...more })
const base = {
  designLoad: 3000,
  deflectionAt: q(1, 'm'),
  channels: [gauge('deflection'), gauge('dial', { offAfter: 3 })],
  loading: { kind: 'points', loads: [{ x: q(1, 'm'), share: 1 }] },
  rungs: [0, 1000, 2000, 3000, 0].map((target, i) => ({ target, hold: 10, decision: i === 2 })),
}
const viewOf = (plan: object) => viewPlanOf('static', plan, PROPERTIES, {}).view

describe('a gauge that comes off on the way', () => {
  it('is expected to read what there is until then, is named at its rung, and needs somebody to look there', () => {
    const view = viewOf(base)
    const [kept, off] = view.channels
    expect(off!.expectedPeak! / kept!.expectedPeak!).toBeCloseTo(2 / 3, 9)
    expect(view.rungs.map(r => r.takeOff)).toEqual([[], [], ['dial'], [], []])
    const codes = (plan: object) =>
      viewOf(plan).findings.flatMap(f => (f.code.startsWith('off-') ? [`${f.code} ${f.path}`] : []))
    expect(codes(base)).toEqual([])
    const unlooked = { ...base, rungs: base.rungs.map(r => ({ ...r, decision: false })) }
    expect(codes(unlooked)).toEqual(['off-without-look channels.1.offAfter'])
    const late = { ...base, channels: [base.channels[0], gauge('dial', { offAfter: 9 })] }
    expect(codes(late)).toEqual(['off-at-the-end channels.1.offAfter'])
  })
})

describe('bags on the way up', () => {
  const bags = (laying: string) => ({
    ...base,
    channels: [gauge('deflection')],
    loading: {
      kind: 'bags',
      stations: [
        { y: q(0, 'm'), load: q(1, 'kN/m') },
        { y: q(2, 'm'), load: q(1, 'kN/m') },
      ],
      bagMass: q(1, 'kg'),
      rows: 8,
      laying,
    },
    rungs: [0, 500, 1000, 2000, 0].map(target => ({ target, hold: 10 })),
  })
  const finding = (laying: string) => viewOf(bags(laying)).findings.find(f => f.code === 'bags-on-the-way')

  it('bend it most otherwise at a rung that is named, where they are laid row by row; in layers they do not', () => {
    const said = finding('row by row')!
    expect([said.path, said.severity]).toEqual(['rungs.2.target', 'warn'])
    expect(said.mend).toContain('layers')
    // 1 kN over the outer or the inner half of the span instead of all of it: half a metre off its middle.
    expect(said.message).toMatch(/at rung 3, .* from the root: .* where .* are wanted/)
    expect(finding('in layers')).toBeUndefined()
  })
})
