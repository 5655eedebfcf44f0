import type { FamilySizing } from '../../advise/sizing'
import { sizeBy } from '../../register/knownFacts'
import { thermalFacts } from './facts'
import { quantity } from '../../method/settings'

/**
 * Free convection: heat goes with area and rise to 5/4, so that the rise goes with heat over area to 4/5. @source
 * Incropera, Fundamentals of Heat and Mass Transfer, ch. 9
 */
const free = (exponent: number) => ({ exponent, doubt: 0.1, because: 'free convection carries area times rise to 5/4' })

export const thermalSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'sink',
      ...sizeBy(thermalFacts, 'sink'),
      step: 0.005,
      mass: { exponent: 1, part: sizeBy(thermalFacts, 'sinkMass').fact },
      touches: ['Housing', 'Mass on the mast head'],
      results: { steadyTemperature: free(-0.8), allowedPower: free(0.8), margin: free(0.8) },
    },
    {
      key: 'losses',
      isGiven: true,
      ...sizeBy(thermalFacts, 'losses'),
      touches: ['What the drive may give: derate'],
      results: { steadyTemperature: free(0.8) },
    },
  ],
  bases: settings => ({ margin: -1, ...ambientOf(settings) }),
}

/** A steady temperature is counted from that of the room. */
function ambientOf(settings: Readonly<Record<string, unknown>>): Record<string, number> {
  const ambient = quantity('temperature').safeParse(settings['ambient'])
  return ambient.success ? { steadyTemperature: ambient.data } : {}
}
