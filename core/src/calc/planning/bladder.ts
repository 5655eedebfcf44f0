import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { issue, plain, quantity } from '../../method/settings'
import { exact } from '../answer'

const settings = z
  .object({
    load: quantity('force', { title: 'Load', positive: true }).optional(),
    pressure: quantity('pressure', { title: 'Pressure', positive: true }).optional(),
    area: quantity('area', { title: 'Area under the bladder', positive: true }),
    contactEfficiency: plain({ title: 'Share of the area in contact', positive: true, max: 1 }).default(1),
    filmLoss: plain({ title: 'Membrane loss', min: 0, max: 0.99 }).default(0),
  })
  .superRefine((s, ctx) => {
    if ((s.load === undefined) === (s.pressure === undefined))
      issue(
        ctx,
        s.load === undefined ? 'missing-setting' : 'setting-range',
        'Either the load or the pressure is said, not both.',
        ['load'],
      )
  })

/**
 * Load of a bladder from its pressure, or the other way round: load = pressure · area · contact efficiency · (1 − film
 * loss).
 *
 * @example
 * bladder.calculate({ load: 2400, area: 0.36, contactEfficiency: 0.92, filmLoss: 0.015 })
 *   .results.pressure.value // 7356.73 Pa
 */
export const bladder = defineCalc({
  id: 'bladder',
  title: 'Bladder',
  purpose: 'Pressure for a load, or load from a pressure, with contact and film loss',
  version: '1.0.0',
  settings,
  example: { load: { value: 2.4, unit: 'kN' }, area: { value: 0.36, unit: 'm²' }, contactEfficiency: 0.92 },
  calculate({ load, pressure, area, contactEfficiency, filmLoss }) {
    const perPressure = area * contactEfficiency * (1 - filmLoss)
    return {
      results: {
        load: exact(load ?? pressure! * perPressure, 'N'),
        pressure: exact(pressure ?? load! / perPressure, 'Pa'),
      },
      tables: {},
      warnings: [],
    }
  },
})
