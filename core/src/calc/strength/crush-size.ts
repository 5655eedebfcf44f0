import * as z from 'zod'
import { STANDARD_GRAVITY } from '../../quantity/index'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { plain, quantity } from '../../method/settings'
import { exact } from '../answer'

const sizeSettings = z.object({
  mass: quantity('mass', { title: 'Mass to stop', positive: true }),
  impactVelocity: quantity('velocity', { title: 'Impact velocity', positive: true }),
  targetDeceleration: quantity('acceleration', { title: 'Wanted deceleration', positive: true }),
  vertical: z.boolean().default(true).meta({ title: 'Falls: gravity goes on pulling' }),
  specificEnergy: quantity('specificEnergy', { title: 'Specific energy', positive: true }),
  density: quantity('density', { title: 'Density', positive: true }),
  meanDiameter: quantity('length', { title: 'Mean diameter', positive: true }),
  strokeFraction: plain({ title: 'Share of the length that crushes', positive: true, max: 1 }).default(0.75),
})

/**
 * A crush tube for a mass and a speed: force m·(a + g₀), stroke v²/2a, and the wall that its specific energy asks for.
 */
export const crushSize = defineCalc({
  id: 'crush-size',
  title: 'Crush tube size',
  purpose: 'Force, stroke, wall and length of a tube that stops a mass',
  version: '1.0.0',
  settings: sizeSettings,
  example: {
    mass: 85,
    impactVelocity: 7,
    targetDeceleration: { value: 20, unit: 'g' },
    specificEnergy: { value: 28, unit: 'kJ/kg' },
    density: 2700,
    meanDiameter: { value: 60, unit: 'mm' },
  },
  calculate(s) {
    const crushForce = s.mass * (s.targetDeceleration + (s.vertical ? STANDARD_GRAVITY : 0))
    const stroke = s.impactVelocity ** 2 / (2 * s.targetDeceleration)
    const linearMass = crushForce / s.specificEnergy
    return {
      results: {
        crushForce: exact(crushForce, 'N'),
        stroke: exact(stroke, 'm'),
        energy: exact(crushForce * stroke, 'J'),
        linearMass: exact(linearMass, 'kg/m'),
        wallThickness: exact(linearMass / (s.density * Math.PI * s.meanDiameter), 'm'),
        tubeLength: exact(stroke / s.strokeFraction, 'm'),
      },
      tables: {},
      warnings: [],
    }
  },
})

const tuneSettings = z.object({
  tests: z
    .array(
      z.object({
        thickness: quantity('length', { title: 'Wall', positive: true }),
        force: quantity('force', { title: 'Mean force', positive: true }),
      }),
    )
    .min(1)
    .meta({ title: 'Tests' }),
  targetForce: quantity('force', { title: 'Wanted force', positive: true }),
})

/**
 * The wall that gives a wanted mean force, from what was measured: t₂ = t₁·(F₂/F₁)^(1/p) from the last test, p by the
 * slope
 * of ln F on ln t over two tests or more, else 1, and that is said.
 *
 * @throws HypometError `data-range` when the tests show no force that rises with the wall
 */
export const crushTune = defineCalc({
  id: 'crush-tune',
  title: 'Crush tube tuning',
  purpose: 'The wall for a wanted force, from the walls that were tested',
  version: '1.0.0',
  settings: tuneSettings,
  example: {
    tests: [
      { thickness: { value: 1, unit: 'mm' }, force: { value: 14.2, unit: 'kN' } },
      { thickness: { value: 1.5, unit: 'mm' }, force: { value: 27.9, unit: 'kN' } },
    ],
    targetForce: { value: 33, unit: 'kN' },
  },
  calculate({ tests, targetForce }) {
    const last = tests.at(-1)!
    const exponent = tests.length === 1 ? 1 : slopeOfLogs(tests)
    if (!(exponent > 0))
      throw new HypometError('data-range', 'The force does not rise with the wall in these tests.', {
        path: 'settings.tests',
      })
    return {
      results: {
        exponent: exact(exponent, '1'),
        thickness: exact(last.thickness * (targetForce / last.force) ** (1 / exponent), 'm'),
      },
      tables: {},
      warnings:
        tests.length === 1
          ? [{ code: 'assumed-exponent', message: 'One test fixes no exponent: force is taken to go with the wall.' }]
          : [],
    }
  },
})

function slopeOfLogs(tests: readonly { thickness: number; force: number }[]): number {
  const [x, y] = [tests.map(t => Math.log(t.thickness)), tests.map(t => Math.log(t.force))]
  const [mx, my] = [x, y].map(v => v.reduce((s, w) => s + w, 0) / v.length) as [number, number]
  const xx = x.reduce((s, v) => s + (v - mx) ** 2, 0)
  return xx === 0 ? NaN : x.reduce((s, v, i) => s + (v - mx) * (y[i]! - my), 0) / xx
}
