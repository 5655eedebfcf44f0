import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { burstFacts } from './facts'

const thin = (exponent: number) => ({
  exponent,
  doubt: 0.1,
  because: 'membrane stress of a thin vessel is pressure times radius over wall',
})
const pressures = (exponent: number) => ({
  burstPressure: thin(exponent),
  burstFactor: thin(exponent),
  margin: thin(exponent),
})

export const burstSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'wall',
      ...sizeBy(burstFacts, 'wall'),
      step: 0.00005,
      results: { ...pressures(1), hoopLineLoad: thin(1), axialLineLoad: thin(1) },
      mass: { exponent: 1 },
      touches: ['Seam: another thickness to weld'],
    },
    {
      key: 'radius',
      isGiven: true,
      ...sizeBy(burstFacts, 'radius'),
      step: 0.005,
      results: pressures(-1),
      mass: { exponent: 2 },
      touches: ['Volume', 'Cradle'],
    },
  ],
  // A margin is a ratio less one.
  bases: () => ({ margin: -1 }),
}
