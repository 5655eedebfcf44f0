import { describe, expect, it } from 'vitest'
import { runCalc } from '../../index'

const calc = (settings: object) => runCalc({ calc: 'beam', settings }).results
const value = (r: ReturnType<typeof calc>, key: string) => r[key]!.value!

describe('beam', () => {
  it('bends as the textbook says', () => {
    const q = calc({
      support: 'cantilever',
      length: 2,
      bendingStiffness: 1500,
      distributed: [{ from: 0, to: 2, q0: 120, q1: 120 }],
    })
    expect(value(q, 'tipDeflection')).toBeCloseTo((120 * 2 ** 4) / (8 * 1500), 12)
    const P = calc({ support: 'cantilever', length: 2, bendingStiffness: 1500, points: [{ x: 2, force: 90 }] })
    expect(value(P, 'tipDeflection')).toBeCloseTo((90 * 2 ** 3) / (3 * 1500), 12)
    const middle = calc({ support: 'simple', length: 4, bendingStiffness: 9000, points: [{ x: 2, force: 300 }] })
    expect(value(middle, 'maxDeflection')).toBeCloseTo((300 * 4 ** 3) / (48 * 9000), 12)
    expect(value(middle, 'maxMoment')).toBeCloseTo((300 * 4) / 4, 12)
    const uniform = calc({
      support: 'simple',
      length: 4,
      bendingStiffness: 9000,
      distributed: [{ from: 0, to: 4, q0: 50, q1: 50 }],
    })
    expect(value(uniform, 'maxDeflection')).toBeCloseTo((5 * 50 * 4 ** 4) / (384 * 9000), 12)
  })

  it('obeys reciprocity: a load here moves there what a load there moves here', () => {
    const at = (x: number, read: number) => {
      const out = runCalc({
        calc: 'beam',
        settings: {
          support: 'simple',
          length: 3,
          bendingStiffness: [
            { to: 1, value: 700 },
            { to: 3, value: 400 },
          ],
          points: [{ x, force: 10 }],
          at: [read],
        },
      })
      return out.tables['stations']!.columns['deflection']![0] as number
    }
    expect(at(0.8, 2.1)).toBeCloseTo(at(2.1, 0.8), 12)
  })

  it('takes the weaker side of a step for the strain', () => {
    const r = calc({
      support: 'cantilever',
      length: 2,
      bendingStiffness: [
        { to: 1, value: 8000 },
        { to: 2, value: 500 },
      ],
      points: [{ x: 2, force: 100 }],
      fibre: 0.02,
    })
    expect(value(r, 'maxStrain')).toBeCloseTo((100 * 1 * 0.02) / 500, 14)
  })

  it.each([
    [{ support: 'cantilever', length: 2 }, 'missing-setting', 'settings.bendingStiffness'],
    [{ support: 'cantilever', length: -2, bendingStiffness: 1 }, 'setting-range', 'settings.length'],
    [
      { support: 'cantilever', length: { value: 2, unit: 'kN' }, bendingStiffness: 1 },
      'unit-dimension',
      'settings.length',
    ],
    [{ support: 'cantilever', length: 'long', bendingStiffness: 1 }, 'setting-type', 'settings.length'],
    [{ support: 'floating', length: 2, bendingStiffness: 1 }, 'setting-range', 'settings.support'],
    [
      { support: 'simple', length: 2, bendingStiffness: [{ to: 2, value: -5 }] },
      'setting-range',
      'settings.bendingStiffness.0.value',
    ],
    [
      { support: 'simple', length: 2, bendingStiffness: 1, points: [{ x: 3, force: 1 }] },
      'setting-range',
      'settings.points.0.x',
    ],
    [
      { support: 'simple', length: 2, bendingStiffness: [{ to: 1, value: 5 }] },
      'setting-range',
      'settings.bendingStiffness',
    ],
  ])('refuses %j', (settings, code, path) => {
    expect(() => runCalc({ calc: 'beam', settings })).toThrow(
      expect.objectContaining({ code, place: expect.objectContaining({ path }) as unknown }) as Error,
    )
  })
})
