import { describe, expect, it } from 'vitest'
import { bendFar } from './elastica'

describe('a cantilever that bends far', () => {
  // Bisshopp & Drucker 1945: tip load P with PL²/EI, deflection and shortening over L.
  it.each([
    [0.5, 0.16208, 0.01571],
    [1, 0.30172, 0.05643],
    [2, 0.49346, 0.16064],
    [5, 0.71379, 0.38763],
    [10, 0.81061, 0.555],
  ])('PL²/EI = %d', (load, across, shortening) => {
    const [L, EI] = [2, 700]
    const tip = bendFar(L, () => EI, [{ x: L, force: (load * EI) / L ** 2 }])!.at(L)
    expect(tip.deflection / L).toBeCloseTo(across, 3)
    expect(1 - tip.along / L).toBeCloseTo(shortening, 3)
  })

  it('is the beam of the textbook where it bends little, with any stiffness along it and loads anywhere', () => {
    const [L, EI, a, F] = [2, 700, 1.2, 1e-3]
    const bent = bendFar(L, () => EI, [{ x: a, force: F }])!
    expect(bent.at(L).deflection / ((F * a * a * (3 * L - a)) / (6 * EI))).toBeCloseTo(1, 3)
    expect(bent.at(0).moment / (F * a)).toBeCloseTo(1, 6)
    // Half as stiff from the middle on: δ = F/3EI·(L³ + (L/2)³).
    const stepped = bendFar(L, s => (s < L / 2 ? EI : EI / 2), [{ x: L, force: F }])!
    expect(stepped.at(L).deflection / ((F / (3 * EI)) * (L ** 3 + (L / 2) ** 3))).toBeCloseTo(1, 3)
  })

  it('says where nothing comes to rest', () => {
    expect(bendFar(2, () => 700, [{ x: 2, force: Infinity }])).toBeNull()
  })
})
