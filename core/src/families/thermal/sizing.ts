import type { FamilySizing } from '../../advise/sizing'
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
      label: 'Sink area',
      kind: 'area',
      names: ['sink area', 'surface', 'area'],
      step: 0.005,
      mass: { exponent: 1, part: 'sink mass' },
      touches: ['Housing', 'Mass on the mast head'],
      results: { steadyTemperature: free(-0.8), allowedPower: free(0.8), margin: free(0.8) },
    },
    {
      key: 'losses',
      isGiven: true,
      label: 'Losses',
      kind: 'power',
      names: ['losses'],
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
