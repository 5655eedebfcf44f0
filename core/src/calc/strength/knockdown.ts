import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { plain, quantity } from '../../method/settings'
import { exact, tableOf, tablesOf } from '../answer'
import { classicalForce, lowerBoundFactor } from './shell'

const size = (title: string) => quantity('length', { title, positive: true })
const settings = z.object({
  radius: size('Radius'),
  thickness: size('Wall'),
  modulus: quantity('pressure', { title: 'Modulus', positive: true }),
  poisson: plain({ title: 'Poisson’s ratio', min: 0, max: 0.4999 }),
  requiredForce: quantity('force', { title: 'Force to carry', positive: true }).optional(),
  factors: z
    .array(plain({ positive: true, max: 1 }))
    .default([])
    .meta({ title: 'Other knockdown factors' }),
  length: size('Length').optional(),
  density: quantity('density', { title: 'Density', positive: true }).optional(),
})

/**
 * Classical buckling force of a thin cylinder, its lower-bound design factor, and – for a force to carry – the wall and
 * mass
 * that each factor asks for.
 *
 * @source Timoshenko & Gere, Theory of Elastic Stability, ch. 11; lower bound 1 − 0.901(1 − e^(−√(R/t)/16)), NASA
 * SP-8007
 */
export const knockdown = defineCalc({
  id: 'knockdown',
  title: 'Shell knockdown',
  purpose: 'Lower-bound factor against others, the difference shown as mass',
  version: '1.0.0',
  settings,
  example: {
    radius: 0.5,
    thickness: { value: 1, unit: 'mm' },
    modulus: { value: 70, unit: 'GPa' },
    poisson: 0.33,
    requiredForce: { value: 90, unit: 'kN' },
    factors: [0.5, 0.65],
    length: 1.5,
    density: 2780,
  },
  calculate({ radius, thickness, modulus, poisson, requiredForce, factors, length, density }) {
    const classical = classicalForce({ modulus, thickness, poisson })
    const lowerBound = lowerBoundFactor({ radius, thickness })
    const wall = (factor: number) => thickness * Math.sqrt(requiredForce! / (factor * classical))
    const massOf = (t: number) =>
      length === undefined || density === undefined ? null : 2 * Math.PI * radius * t * length * density
    const designs =
      requiredForce === undefined
        ? []
        : [lowerBound, ...factors].map(factor => ({
            factor,
            thickness: wall(factor),
            mass: massOf(wall(factor)),
            massSaving: 1 - wall(factor) / wall(lowerBound),
          }))
    return {
      results: {
        classicalForce: exact(classical, 'N'),
        allowableForce: exact(lowerBound * classical, 'N'),
        lowerBoundFactor: exact(lowerBound, '1'),
      },
      tables: tablesOf(
        'designs',
        designs.length > 0 ? tableOf(designs, { factor: '1', thickness: 'm', mass: 'kg', massSaving: '1' }) : null,
      ),
      warnings: [],
    }
  },
})
