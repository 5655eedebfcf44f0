import * as z from 'zod'
import { defineCalc } from '../method/define'
import { issue, quantity } from '../method/settings'
import { exact, given, tableOf } from './answer'

const place = z.tuple([quantity('length'), quantity('length')])
const settings = z
  .object({
    layers: z.array(z.object({ altitude: quantity('length', { title: 'Lower end' }), speed: quantity('velocity', { title: 'Wind', min: 0 }), from: quantity('angle', { title: 'From' }) })).min(1).meta({ title: 'Wind by layer' }),
    rate: quantity('velocity', { title: 'Rate of descent', positive: true }), exitAltitude: quantity('length', { title: 'Exit', positive: true }), openingAltitude: quantity('length', { title: 'Opening', positive: true }),
    freefallRate: quantity('velocity', { title: 'Rate before opening', positive: true }).optional(), field: z.array(place).min(3).optional().meta({ title: 'Field: east, north' }), start: place.default([0, 0]).meta({ title: 'Start: east, north' }),
  })
  .superRefine((s, ctx) => {
    if (s.openingAltitude > s.exitAltitude) issue(ctx as never, 'setting-range', 'It cannot open above where it goes out.', ['openingAltitude'])
  })

type Point = readonly [number, number]

/** @source even–odd rule along a ray to the east */
function isInside([x, y]: Point, polygon: readonly Point[]): boolean {
  let inside = false
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
    const [[xi, yi], [xj, yj]] = [polygon[i]!, polygon[j]!]
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside
  }
  return inside
}

/**
 * Where a canopy comes down: drift with the wind of each layer, from the exit in free fall to the opening, then at the rate
 * of descent to the ground. A wind from the west carries east.
 */
export const descentPlan = defineCalc({
  id: 'descent-plan', title: 'Descent plan', purpose: 'Drift through wind layers, landing place, inside the field or not', version: '1.0.0', settings,
  example: { layers: [{ altitude: 0, speed: 3, from: { value: 240, unit: 'deg' } }, { altitude: 300, speed: 6.5, from: { value: 265, unit: 'deg' } }], rate: 6.2, exitAltitude: 1500, openingAltitude: 1100, freefallRate: 42 },
  calculate({ layers: windLayers, rate, exitAltitude, openingAltitude, freefallRate, field, start }) {
    const layers = [...windLayers].sort((a, b) => b.altitude - a.altitude)
    const top = freefallRate === undefined ? openingAltitude : exitAltitude
    const stops = [...new Set([openingAltitude, 0, ...layers.map(l => l.altitude)])].filter(a => a >= 0 && a < top).sort((a, b) => b - a)
    let [altitude, t, east, north] = [top, 0, start[0], start[1]]
    const path = [{ altitude, t, east, north }]
    for (const next of stops) {
      // Just below where it now is; below the lowest layer the lowest one's wind blows on.
      const wind = layers.find(l => l.altitude < altitude) ?? layers.at(-1)!
      const falling = freefallRate !== undefined && altitude > openingAltitude ? freefallRate : rate
      const dt = (altitude - next) / falling
      t += dt
      east -= Math.sin(wind.from) * wind.speed * dt
      north -= Math.cos(wind.from) * wind.speed * dt
      altitude = next
      path.push({ altitude, t, east, north })
    }
    const [dx, dy] = [east - start[0], north - start[1]]
    const inside = field ? isInside([east, north], field) : null
    return {
      results: given({
        landingEast: exact(east, 'm'), landingNorth: exact(north, 'm'), drift: exact(Math.hypot(dx, dy), 'm'), driftBearing: exact((Math.atan2(dx, dy) + 2 * Math.PI) % (2 * Math.PI), 'rad'),
        descentTime: exact(t, 's'), inside: inside === null ? null : exact(inside ? 1 : 0, '1'),
      }),
      tables: { path: tableOf(path, { altitude: 'm', t: 's', east: 'm', north: 'm' }) },
      warnings: inside === false ? [{ code: 'outside-field', message: 'It comes down outside the field: move the exit upwind or wait.' }] : [],
    }
  },
})
