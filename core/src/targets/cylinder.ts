import { HypometError } from '../error'
import { fitNonlinear } from '../statistics/levenbergMarquardt'
import { centreOf, cross, dot, minus, norm, point, scaled, type Point } from '../geometry/point'

/** A cylinder through places on a shell: a point of its axis at the height of the first place, and its direction. */
export interface Cylinder {
  centre: Point
  axis: Point
  radius: number
  /** Root of the mean square of how far the places are off it, m. */
  residual: number
}

const FEWEST = 6

/**
 * The cylinder that places lie on with the least squares of their distances from its wall, its axis near a given one.
 *
 * @param places  at rest, m; at least six
 * @throws HypometError `data-range` for too few places, or where they tell no cylinder about that axis
 */
export function cylinderOf(places: readonly Point[], near: Point): Cylinder {
  if (places.length < FEWEST)
    throw new HypometError('data-range', `A cylinder takes at least ${FEWEST} targets.`, { path: 'view' })
  let found = cylinderAbout(places, near)
  // Distances are taken across the axis before: once it stands still they are those from the wall.
  for (let turn = 0; turn < MOST_TURNS; turn++) {
    const next = cylinderAbout(places, found.axis)
    const isStill = norm(cross(next.axis, found.axis)) < STILL
    found = next
    if (isStill) break
  }
  return found
}

const MOST_TURNS = 20
const STILL = 1e-12

function cylinderAbout(places: readonly Point[], near: Point): Cylinder {
  const [ax, ay, az] = frameAbout(near)
  const middle = centreOf(places)
  const local = places.map(p => {
    const d = minus(p, middle)
    return { a: dot(d, ax), b: dot(d, ay), h: dot(d, az) }
  })
  const size = Math.max(...local.map(({ a, b }) => Math.hypot(a, b)))
  // The axis passes (p, q) at the middle's height and leans by (m, n) a unit of height.
  const across = (v: ArrayLike<number>) => (k: number) => {
    const { a, b, h } = local[k]!
    return [a - v[0]! - v[2]! * h, b - v[1]! - v[3]! * h] as const
  }
  const off = (v: Float64Array): Float64Array => Float64Array.from(local, (_, k) => v[4]! - Math.hypot(...across(v)(k)))
  const start = circleThrough(local.map(({ a, b }) => [a, b] as const))
  const fit = fitted(() =>
    fitNonlinear({
      isNear: true,
      parameters: [
        { name: 'centre along a', start: start.a },
        { name: 'centre along b', start: start.b },
        { name: 'lean along a', start: 0, lower: -1, upper: 1 },
        { name: 'lean along b', start: 0, lower: -1, upper: 1 },
        { name: 'radius', start: start.radius, lower: 0 },
      ],
      residuals: off,
      // Of the model, distance less radius, whose measurement is nothing.
      slopes: v => {
        const rows = local.map(({ h }, k) => {
          const [x, y] = across(v)(k)
          const r = Math.hypot(x, y) || 1e-12 * size
          return [-x / r, -y / r, (-x * h) / r, (-y * h) / r, -1]
        })
        return [0, 1, 2, 3, 4].map(j => Float64Array.from(rows, row => row[j]!))
      },
    }),
  )
  const [p, q, m, n, radius] = fit.values as unknown as [number, number, number, number, number]
  const axis = scaled(point(i => az[i] + m * ax[i] + n * ay[i]))
  const centre = point(i => middle[i] + p * ax[i] + q * ay[i])
  // Distances across the axis, not across the direction that was given.
  const distances = places.map(place => norm(cross(minus(place, centre), axis)))
  const mean = distances.reduce((s, d) => s + d, 0) / distances.length
  const residual = Math.sqrt(distances.reduce((s, d) => s + (d - mean) ** 2, 0) / distances.length)
  if (!(radius > 0) || !(radius < LARGEST * size) || residual > ROUGHEST * mean) throw noCylinder()
  return { centre, axis, radius: mean, residual }
}

/** A shell of which places show less than this part of a radius is as good as flat. */
const LARGEST = 50
const ROUGHEST = 0.2

const noCylinder = () =>
  new HypometError('data-range', 'These targets lie on no cylinder about that axis: choose another, or a flat view.', {
    path: 'view',
  })

function fitted<T>(fit: () => T): T {
  try {
    return fit()
  } catch (e) {
    throw e instanceof HypometError && e.code === 'singular' ? noCylinder() : e
  }
}

/** Two directions across one, right-handed with it. */
function frameAbout(axis: Point): [Point, Point, Point] {
  const along = scaled(axis)
  const least = along.reduce((m, v, i) => (Math.abs(v) < Math.abs(along[m]!) ? i : m), 0)
  const a = scaled(
    cross(
      point(i => (i === least ? 1 : 0)),
      along,
    ),
  )
  return [a, cross(along, a), along]
}

/** Kåsa's circle: linear least squares of a² + b². */
function circleThrough(places: readonly (readonly [number, number])[]): { a: number; b: number; radius: number } {
  const n = places.length
  const sum = (of: (a: number, b: number) => number) => places.reduce((s, [a, b]) => s + of(a, b), 0)
  // Places are taken from their middle, so that sums of a and of b are nothing.
  const [aa, ab, bb] = [sum(a => a * a), sum((a, b) => a * b), sum((_, b) => b * b)]
  const [ar, br] = [sum((a, b) => a * (a * a + b * b)) / 2, sum((a, b) => b * (a * a + b * b)) / 2]
  const det = aa * bb - ab * ab
  if (!(det > 1e-9 * (aa + bb) ** 2)) throw noCylinder()
  const [a, b] = [(ar * bb - br * ab) / det, (br * aa - ar * ab) / det]
  return { a, b, radius: Math.sqrt(a * a + b * b + (aa + bb) / n) }
}

/** A place on the developed surface, and the directions there. */
export interface Developed {
  /** Arc length around from where the surface is cut open opposite the first place, m. */
  around: number
  /** Along the axis from the middle of the places, m. */
  along: number
  radial: Point
  tangent: Point
}

/** Places of a shell on its developed surface: how far around, how far along, in metres. */
export function developed(places: readonly Point[], { centre, axis, radius }: Cylinder): Developed[] {
  const radials = places.map(p => {
    const d = minus(p, centre)
    const along = dot(d, axis)
    return { along, radial: scaled(point(i => d[i] - along * axis[i])) }
  })
  const [zero] = radials
  const side = zero ? cross(axis, zero.radial) : axis
  return radials.map(({ along, radial }) => ({
    around: radius * Math.atan2(dot(radial, side), dot(radial, zero!.radial)),
    along,
    radial,
    tangent: cross(axis, radial),
  }))
}
