import { describe, expect, it } from 'vitest'
import { checkOwnUnits, formatQuantity, ownUnits, preferenceOf } from './index'

const show = (units: string[], si: number, kind: Parameters<typeof formatQuantity>[1]) =>
  formatQuantity(si, kind, { prefer: preferenceOf({ system: 'imperial', units }), digits: 3 })

describe('units of a campaign’s own', () => {
  it('take the place of those of its system, for every kind that they fit', () => {
    expect(show(['bar'], 4e5, 'pressure')).toBe('4.00\u202fbar')
    expect(show(['g'], 98.0665, 'acceleration')).toBe('10.0\u202fg')
    expect(show(['g²/Hz'], 96.17038, 'accelerationDensity')).toBe('1.00\u202fg²/Hz')
    expect(show(['bar'], 4.4482216, 'force')).toBe('1.00\u202flbf')
    expect(show([], (2 * Math.PI * 1200) / 60, 'rotation')).toBe('1200\u202frpm')
  })

  it('speak of one quantity where that is said', () => {
    const { torque, energy } = preferenceOf({ system: 'imperial', units: ['torque: N·m'] })
    expect([torque, energy]).toEqual(['N·m', 'ft·lbf'])
    expect(ownUnits(['Volume flow: m³/h'])).toEqual({ volumeFlow: 'm³/h' })
  })

  it('give no quantity two, but for one that is named; what was stored with two still shows', () => {
    expect(() => checkOwnUnits(['bar', 'psi'])).toThrow(/bar and psi are both units of pressure: choose one/)
    expect(() => checkOwnUnits(['kN', 'lbf'])).toThrow(/both units of force/)
    for (const fine of [
      ['J', 'torque: N·m'],
      ['bar', 'bar'],
      ['bar', 'kN'],
    ])
      checkOwnUnits(fine)
    expect(ownUnits(['torque: N·m', 'J'])).toMatchObject({ torque: 'N·m', energy: 'J' })
    expect(ownUnits(['bar', 'psi']).pressure).toBe('psi')
  })

  it.each([
    ['furlong', 'unit-unknown'],
    ['torque:', 'unit-unknown'],
    ['torque: kN', 'unit-dimension'],
    ['colour: N', 'unit-dimension'],
  ])('refuse %s', (text, code) => {
    for (const check of [ownUnits, checkOwnUnits])
      expect(() => check([text])).toThrow(expect.objectContaining({ code, place: { path: 'units' } }) as Error)
  })
})
