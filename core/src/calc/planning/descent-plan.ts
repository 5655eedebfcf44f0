import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { issue, plain, quantity } from '../../method/settings'
import { SeededRandom } from '../../statistics/random'
import { exact, given, tableOf, tablesOf } from '../answer'

/** One standard deviation of what is not known on the day; draws and seed of the drawing. */
const scatterField = z
  .object({
    speed: plain({ title: 'Wind, share of its speed', min: 0, max: 1 }).default(0.2),
    direction: quantity('angle', { title: 'Wind’s direction', min: 0 }).default(0.17),
    rate: plain({ title: 'Rate of descent, share', min: 0, max: 0.5 }).default(0.08),
    exit: quantity('length', { title: 'Place of the exit', min: 0 }).default(20),
    draws: plain({ title: 'Draws', whole: true, min: 100, max: 1_000_000 }).default(20_000),
    seed: plain({ title: 'Seed', whole: true }).default(1),
  })
  .meta({ title: 'Scatter, one standard deviation' })

const place = z.tuple([quantity('length'), quantity('length')])
const settings = z
  .object({
    layers: z
      .array(
        z.object({
          altitude: quantity('length', { title: 'Lower end' }),
          speed: quantity('velocity', { title: 'Wind', min: 0 }),
          from: quantity('angle', { title: 'From' }),
        }),
      )
      .min(1)
      .meta({ title: 'Wind by layer' }),
    rate: quantity('velocity', { title: 'Rate of descent', positive: true }),
    exitAltitude: quantity('length', { title: 'Exit', positive: true }),
    openingAltitude: quantity('length', { title: 'Opening', positive: true }),
    freefallRate: quantity('velocity', { title: 'Rate before opening', positive: true }).optional(),
    field: z.array(place).min(3).optional().meta({ title: 'Field: east, north' }),
    start: place.default([0, 0]).meta({ title: 'Start: east, north' }),
    scatter: scatterField.optional(),
  })
  .superRefine((s, ctx) => {
    if (s.openingAltitude > s.exitAltitude)
      issue(ctx, 'setting-range', 'It cannot open above where it goes out.', ['openingAltitude'])
  })

type Point = readonly [number, number]

/** @source even–odd rule along a ray to the east */
export function isInside([x, y]: Point, polygon: readonly Point[]): boolean {
  let inside = false
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
    const [[xi, yi], [xj, yj]] = [polygon[i]!, polygon[j]!]
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside
  }
  return inside
}

type Settings = z.output<typeof settings>

interface Drift {
  altitude: number
  t: number
  east: number
  north: number
}

/** Places on the way down: at the start, each layer's lower end, the opening and the ground. */
function descend({ layers: windLayers, rate, exitAltitude, openingAltitude, freefallRate, start }: Settings): Drift[] {
  const layers = [...windLayers].sort((a, b) => b.altitude - a.altitude)
  const top = freefallRate === undefined ? openingAltitude : exitAltitude
  const stops = [...new Set([openingAltitude, 0, ...layers.map(l => l.altitude)])]
    .filter(a => a >= 0 && a < top)
    .sort((a, b) => b - a)
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
  return path
}

/** 95 % of a plane normal distribution lie within √5.991 of its middle, in standard deviations. */
const CHI_SQUARE_95 = 5.991464547107979

/**
 * Where it may come down: wind speed, its direction, the rate and the exit drawn together for the whole way, and the
 * ellipse
 * that holds 95 % of a normal distribution with the draws' covariance.
 */
function landings(s: Settings, scatter: NonNullable<Settings['scatter']>) {
  const random = new SeededRandom(scatter.seed)
  const n = scatter.draws
  let [sx, sy, sxx, syy, sxy, inside] = [0, 0, 0, 0, 0, 0]
  for (let i = 0; i < n; i++) {
    const [faster, turned, sinking] = [
      Math.max(0, 1 + scatter.speed * random.normal()),
      scatter.direction * random.normal(),
      Math.max(0.2, 1 + scatter.rate * random.normal()),
    ]
    const start: [number, number] = [
      s.start[0] + scatter.exit * random.normal(),
      s.start[1] + scatter.exit * random.normal(),
    ]
    const { east, north } = descend({
      ...s,
      start,
      rate: s.rate * sinking,
      layers: s.layers.map(l => ({ ...l, speed: l.speed * faster, from: l.from + turned })),
    }).at(-1)!
    sx += east
    sy += north
    sxx += east * east
    syy += north * north
    sxy += east * north
    if (s.field && isInside([east, north], s.field)) inside++
  }
  const [mx, my] = [sx / n, sy / n]
  const [vx, vy, c] = [(sxx - n * mx * mx) / (n - 1), (syy - n * my * my) / (n - 1), (sxy - n * mx * my) / (n - 1)]
  const [middle, reach] = [(vx + vy) / 2, Math.hypot((vx - vy) / 2, c)]
  // Its longer axis lies along (λ − vy, c), counted from the north; either end will do.
  const bearing = (Math.atan2(middle + reach - vy, c) + Math.PI) % Math.PI
  const axis = (variance: number) => Math.sqrt(CHI_SQUARE_95 * Math.max(0, variance))
  return {
    east: mx,
    north: my,
    major: axis(middle + reach),
    minor: axis(middle - reach),
    bearing,
    inside: s.field ? inside / n : null,
  }
}

/** Points of an ellipse about its middle, for a drawing. */
function ellipsePoints({
  east,
  north,
  major,
  minor,
  bearing,
}: ReturnType<typeof landings>): { east: number; north: number }[] {
  return Array.from({ length: 73 }, (_, i) => {
    const a = (2 * Math.PI * i) / 72
    const [u, v] = [major * Math.cos(a), minor * Math.sin(a)]
    return {
      east: east + u * Math.sin(bearing) + v * Math.cos(bearing),
      north: north + u * Math.cos(bearing) - v * Math.sin(bearing),
    }
  })
}

/**
 * Where a canopy comes down: drift with the wind of each layer, from the exit in free fall to the opening, then at the
 * rate
 * of descent to the ground. A wind from the west carries east. With scatter, the ellipse that holds 95 % of the
 * landings.
 */
export const descentPlan = defineCalc({
  id: 'descent-plan',
  title: 'Descent plan',
  purpose: 'Drift through wind layers, landing place and ellipse, inside the field or not',
  version: '1.1.0',
  settings,
  example: {
    layers: [
      { altitude: { value: 0, unit: 'm' }, speed: 3, from: { value: 240, unit: 'deg' } },
      { altitude: { value: 300, unit: 'm' }, speed: 6.5, from: { value: 265, unit: 'deg' } },
    ],
    rate: 6.2,
    exitAltitude: { value: 1500, unit: 'm' },
    openingAltitude: { value: 1100, unit: 'm' },
    freefallRate: 42,
    scatter: { speed: 0.2 },
  },
  labels: {
    ellipseMajor: 'Ellipse, half of the longer axis',
    ellipseMinor: 'Ellipse, half of the shorter axis',
    ellipseBearing: 'Longer axis points to',
    probabilityInside: 'Inside the field with a chance of',
  },
  calculate(s) {
    const path = descend(s)
    const { east, north, t } = path.at(-1)!
    const [dx, dy] = [east - s.start[0], north - s.start[1]]
    const inside = s.field ? isInside([east, north], s.field) : null
    const spread = s.scatter ? landings(s, s.scatter) : null
    return {
      results: given({
        landingEast: exact(east, 'm'),
        landingNorth: exact(north, 'm'),
        drift: exact(Math.hypot(dx, dy), 'm'),
        driftBearing: exact((Math.atan2(dx, dy) + 2 * Math.PI) % (2 * Math.PI), 'rad'),
        descentTime: exact(t, 's'),
        inside: inside === null ? null : exact(inside ? 1 : 0, '1'),
        ellipseMajor: spread && exact(spread.major, 'm'),
        ellipseMinor: spread && exact(spread.minor, 'm'),
        ellipseBearing: spread && exact(spread.bearing, 'rad'),
        probabilityInside: spread?.inside == null ? null : exact(spread.inside, '1'),
      }),
      tables: {
        path: tableOf(
          path.map(p => ({ ...p })),
          { altitude: 'm', t: 's', east: 'm', north: 'm' },
        ),
        ...tablesOf('ellipse', spread ? tableOf(ellipsePoints(spread), { east: 'm', north: 'm' }) : null),
      },
      warnings:
        inside === false
          ? [{ code: 'outside-field', message: 'It comes down outside the field: move the exit upwind or wait.' }]
          : [],
    }
  },
})
