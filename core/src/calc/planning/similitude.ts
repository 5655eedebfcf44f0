import * as z from 'zod'
import { STANDARD_GRAVITY } from '../../quantity/index'
import { defineCalc } from '../../method/calculation'
import { quantity } from '../../method/settings'
import { exact, given, tableOf } from '../answer'

export const similitudeState = z.object({
  velocity: quantity('velocity', { title: 'Velocity', positive: true }),
  density: quantity('density', { title: 'Density of the medium', positive: true }),
  length: quantity('length', { title: 'Length', positive: true }),
  mass: quantity('mass', { title: 'Mass', positive: true }),
  viscosity: quantity('viscosity', { title: 'Viscosity', positive: true }).optional(),
  force: quantity('force', { title: 'Force', positive: true }).optional(),
  width: quantity('length', { title: 'Width', positive: true }).optional(),
})
const settings = z.object({
  test: similitudeState.meta({ title: 'In the test' }),
  service: similitudeState.meta({ title: 'In service' }),
})
type State = z.output<typeof similitudeState>

const NUMBERS: Record<string, { of: (s: State) => number | null; unit: string }> = {
  dynamicPressure: { of: s => (s.density * s.velocity ** 2) / 2, unit: 'Pa' },
  massRatio: { of: s => (s.density * s.length ** 3) / s.mass, unit: '1' },
  froude: { of: s => s.velocity / Math.sqrt(STANDARD_GRAVITY * s.length), unit: '1' },
  reynolds: {
    of: s => (s.viscosity === undefined ? null : (s.density * s.velocity * s.length) / s.viscosity),
    unit: '1',
  },
  lineLoad: { of: s => (s.force === undefined || s.width === undefined ? null : s.force / s.width), unit: 'N/m' },
}

/** Every number that both states have, with its ratio; within 0.5–2 it counts as represented. */
export const compareStates = (test: State, service: State) =>
  Object.entries(NUMBERS).flatMap(([name, { of }]) => {
    const [a, b] = [of(test), of(service)]
    return a === null || b === null
      ? []
      : [{ name, test: a, service: b, ratio: a / b, within: a / b >= 0.5 && a / b <= 2 ? 1 : 0 }]
  })

/**
 * The governing numbers of a test beside those in service. A ratio outside 0.5–2 is not represented, and is named.
 *
 * @source Buckingham's theorem; the groups as in Baker, Westine & Dodge, Similarity Methods in Engineering Dynamics
 */
export const similitude = defineCalc({
  id: 'similitude',
  title: 'Similitude',
  purpose: 'What of service the test represents, and what not',
  version: '1.0.0',
  settings,
  example: {
    test: { velocity: 24, density: 1.2, length: 2, mass: 5 },
    service: { velocity: 46, density: 1.05, length: 5, mass: 95 },
  },
  calculate({ test, service }) {
    const rows = compareStates(test, service)
    const missed = rows.filter(r => r.within === 0).map(r => r.name)
    return {
      results: given(
        Object.fromEntries(
          Object.keys(NUMBERS).map(name => [
            `${name}Ratio`,
            rows.some(r => r.name === name) ? exact(rows.find(r => r.name === name)!.ratio, '1') : null,
          ]),
        ),
      ),
      tables: { ratios: tableOf(rows, { name: '1', test: '1', service: '1', ratio: '1', within: '1' }) },
      warnings:
        missed.length > 0
          ? [{ code: 'not-represented', message: `The test does not represent: ${missed.join(', ')}.` }]
          : [],
    }
  },
})
