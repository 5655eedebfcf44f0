import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { plain, quantity } from '../../method/settings'
import { exact } from '../answer'

const size = (title: string) => quantity('length', { title, positive: true })
const settings = z.object({
  burstPressure: quantity('pressure', { title: 'Burst pressure', positive: true }),
  radius: size('Radius'),
  length: size('Length'),
  newRadius: size('New radius'),
  newLength: size('New length'),
  ratedPressure: quantity('pressure', { title: 'Rated pressure', positive: true }),
  requiredFactor: plain({ title: 'Required factor', positive: true }),
  sizeFactor: plain({ title: 'Size factor', positive: true }).default(1),
})

/** Burst pressure of a vessel of the same wall at another size: p₂ = p₁·R₁/R₂, times a factor for its size. */
export const scaleBurst = defineCalc({
  id: 'scale-burst',
  title: 'Burst at another size',
  purpose: 'The same wall at another radius and length',
  version: '1.0.0',
  settings,
  example: {
    burstPressure: { value: 6.2, unit: 'bar' },
    radius: 0.35,
    length: 1,
    newRadius: 0.55,
    newLength: 1.6,
    ratedPressure: { value: 1.2, unit: 'bar' },
    requiredFactor: 2,
  },
  calculate(s) {
    const pressure = ((s.burstPressure * s.radius) / s.newRadius) * s.sizeFactor
    const factor = pressure / s.ratedPressure
    return {
      results: {
        newBurstPressure: exact(pressure, 'Pa'),
        volumeRatio: exact((s.newRadius / s.radius) ** 2 * (s.newLength / s.length), '1'),
        burstFactor: exact(factor, '1'),
        margin: exact(factor / s.requiredFactor - 1, '1'),
      },
      tables: {},
      warnings: [],
    }
  },
})
