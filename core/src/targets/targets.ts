import { HypometError } from '../error'
import { pivotRows } from '../formats/tall'
import { leastSquares } from '../statistics/leastSquares'
import { meanRead, meanSd } from '../statistics/mean'
import { axesOf, FILE_AXES, type Axes, type AxesSaid } from './axes'
import { fixtureNoise } from './fixtureNoise'
import { dot, minus, point, type Point } from '../geometry/point'
import { motionOf, movedBack, rigidMotion, type RigidMotion } from '../geometry/rigidMotion'

/** Positions of one image target over time, m; NaN where it was not seen. */
export interface Target {
  name: string
  x: Float64Array
  y: Float64Array
  z: Float64Array
  /** Columns that they were read from; none behind a place of a flat picture. */
  from?: { x: string; y: string; z: string | null }
}

const AXES = ['x', 'y', 'z'] as const

/**
 * Targets among the columns of a record: three (or two, of a flat picture) columns of lengths whose names end in x, y,
 * z.
 *
 * @param columns  by name, SI
 * @param units  SI unit of each
 */
export function targetsOf(
  columns: Readonly<Record<string, Float64Array>>,
  units: Readonly<Record<string, string>>,
): Target[] {
  const byName = new Map<string, Partial<Record<(typeof AXES)[number], string>>>()
  for (const column of Object.keys(columns)) {
    const match = /^(.+?)[\s_.-]?([xyzXYZ])$/.exec(column.replace(/\s*[[(][^\])]*[\])]$/, ''))
    if (!match || units[column] !== 'm') continue
    const axis = match[2]!.toLowerCase() as (typeof AXES)[number]
    byName.set(match[1]!, { ...byName.get(match[1]!), [axis]: column })
  }
  return [...byName].flatMap(([name, { x, y, z }]) => {
    if (!x || !y) return []
    const flat = z === undefined ? new Float64Array(columns[x]!.length) : columns[z]!
    return [{ name, x: columns[x]!, y: columns[y]!, z: flat, from: { x, y, z: z ?? null } }]
  })
}

/** A record of rows – time, name of the target, its place – as targets over the times that all share. */
export function targetsOfRows(
  t: Float64Array,
  names: readonly string[],
  [x, y, z]: readonly [Float64Array, Float64Array, Float64Array | null],
): { times: Float64Array; targets: Target[] } {
  const { times, keys, columns } = pivotRows(t, names, [x, y, z ?? new Float64Array(t.length)])
  return {
    times,
    targets: keys.map((name, k) => ({ name, x: columns[k]![0]!, y: columns[k]![1]!, z: columns[k]![2]! })),
  }
}

/** Where the targets of an article went once the motion of what holds it is taken off, in the axes of the article. */
export interface TargetField {
  names: string[]
  axes: Axes
  /** Places at rest, m: along, across and out of the plane. */
  x: number[]
  y: number[]
  z: number[]
  /** Displacement by target, then time, m. */
  u: Float64Array[]
  v: Float64Array[]
  w: Float64Array[]
  /**
   * Standard uncertainty of a displacement along, across and out, m, by how far targets scatter at rest; null where
   * the rest is a single picture. `own` is that of the target alone, the rest of `all` comes from the fixture.
   */
  scatter: ({ own: Point; all: Point } | null)[]
  /** Motion of the fixture at each time; null where too few of its targets were seen, or none are named. */
  fixture: (RigidMotion | null)[]
}

const FEWEST_HOLDERS = 3

/**
 * Displacements of targets against their mean places in the rest at the beginning, with the rigid motion of the
 * fixture's targets taken off by least squares at each time.
 *
 * @param rest  indices [from, to) at which nothing is loaded
 * @param fixture  names of targets on what holds the article; none takes nothing off
 * @param said  how the article lies in the axes of the file
 * @throws HypometError `data-range` below three fixture targets, or where they lie on one line; what `axesOf` throws
 */
export function targetField(
  targets: readonly Target[],
  [from, to]: readonly [number, number],
  fixture: readonly string[],
  said: AxesSaid = FILE_AXES,
): TargetField {
  const place = (t: Target): Point => point(i => meanRead(t[AXES[i]].subarray(from, to)))
  const holders = targets.filter(t => fixture.includes(t.name))
  const rest = holders.map(place)
  if (fixture.length > 0 && (holders.length < FEWEST_HOLDERS || !rigidMotion(rest, rest)))
    throw new HypometError(
      'data-range',
      'A rigid motion takes at least three targets of the fixture that are not on one line.',
      { path: 'fixture' },
    )
  const n = targets[0]?.x.length ?? 0
  const motionAt = (i: number) => motionOf(rest, k => point(axis => holders[k]![AXES[axis]][i]!))
  const motions = Array.from({ length: n }, (_, i) => (fixture.length === 0 ? null : motionAt(i)))
  const seen = targets.filter(t => !fixture.includes(t.name) && place(t).every(Number.isFinite))
  const homes = seen.map(place)
  const axes = axesOf(said, {
    names: [...seen, ...holders].map(t => t.name),
    // What spreads along an article are its own targets.
    at: said.by === 'spread' ? homes : [...homes, ...rest],
  })
  const turned = (p: Point): Point => point(k => dot(axes[k], p))
  const field: TargetField = {
    names: seen.map(t => t.name),
    axes,
    x: [],
    y: [],
    z: [],
    u: [],
    v: [],
    w: [],
    scatter: scatterIn(axes, { seen, homes, holders, rest, from, to }),
    fixture: motions,
  }
  seen.forEach((target, k) => {
    const home = homes[k]!
    const [u, v, w] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)]
    for (let i = 0; i < n; i++) {
      const now: Point = [target.x[i]!, target.y[i]!, target.z[i]!]
      const back = motions[i] ? movedBack(motions[i]!, now) : fixture.length > 0 ? ([NaN, NaN, NaN] as const) : now
      ;[u[i], v[i], w[i]] = turned(minus(back, home))
    }
    turned(home).forEach((c, axis) => field[AXES[axis]!].push(c))
    field.u.push(u)
    field.v.push(v)
    field.w.push(w)
  })
  return field
}

interface Resting {
  seen: readonly Target[]
  homes: readonly Point[]
  holders: readonly Target[]
  rest: readonly Point[]
  from: number
  to: number
}

/** Uncertainty of a displacement of each target: of a picture and of the mean at rest, its own and the fixture's. */
function scatterIn(axes: Axes, { seen, homes, holders, rest, from, to }: Resting): TargetField['scatter'] {
  const ofHolders = holders.map(h => scatterOf(h, from, to))
  const known = ofHolders.filter(s => s !== null)
  const noise = known.length < holders.length ? null : fixtureNoise(rest, known)
  const pictures = 1 + 1 / (to - from)
  return seen.map((t, k) => {
    const own = scatterOf(t, from, to)
    if (!own || (holders.length > 0 && !noise)) return null
    const along = (axis: 0 | 1 | 2) => Math.hypot(...own.map((s, i) => s * axes[axis][i]!))
    const taken = (axis: 0 | 1 | 2) => noise?.(homes[k]!, axes[axis]) ?? 0
    return {
      own: point(axis => Math.sqrt(pictures) * along(axis)),
      all: point(axis => Math.sqrt(pictures) * Math.hypot(along(axis), taken(axis))),
    }
  })
}

/** Standard deviation of a target's place at rest; null where it was seen once. */
function scatterOf(target: Target, from: number, to: number): Point | null {
  const axes = AXES.map(axis => target[axis].subarray(from, to).filter(v => !Number.isNaN(v)))
  if (axes.some(values => values.length < 2)) return null
  return point(i => meanSd(axes[i]!).sd)
}

/** Stretch between two targets against their distance at rest: what a strain gauge between them reads. */
export function stretchBetween({ x, y, z, u, v, w }: TargetField, a: number, b: number): Float64Array {
  const rest = Math.hypot(x[b]! - x[a]!, y[b]! - y[a]!, z[b]! - z[a]!)
  return u[a]!.map(
    (_, i) =>
      Math.hypot(
        x[b]! + u[b]![i]! - x[a]! - u[a]![i]!,
        y[b]! + v[b]![i]! - y[a]! - v[a]![i]!,
        z[b]! + w[b]![i]! - z[a]! - w[a]![i]!,
      ) /
        rest -
      1,
  )
}

export interface FieldShape {
  /** Out of the plane at the middle, m, and its slopes along x and y, rad. */
  middle: number
  slopeX: number
  slopeY: number
  /** rad over the whole length in x: what the slope across changes by. */
  twist: number
}

/** Shape of the out-of-plane displacements at a time: a plane, and a twist along x. Null below four targets. */
export function shapeAt({ x, y, w }: TargetField, i: number): FieldShape | null {
  const rows = x.map((_, k) => k).filter(k => Number.isFinite(w[k]![i]!))
  const span = Math.max(...rows.map(k => x[k]!)) - Math.min(...rows.map(k => x[k]!))
  const [mx, my] = [
    rows.reduce((s, k) => s + x[k]!, 0) / rows.length,
    rows.reduce((s, k) => s + y[k]!, 0) / rows.length,
  ]
  if (rows.length < 4) return null
  try {
    const { coefficients: c } = leastSquares(
      rows.map(k => [1, x[k]! - mx, y[k]! - my, (x[k]! - mx) * (y[k]! - my)]),
      rows.map(k => w[k]![i]!),
    )
    return { middle: c[0]!, slopeX: c[1]!, slopeY: c[2]!, twist: c[3]! * span }
  } catch (e) {
    // All in a line: there is no plane.
    if (e instanceof HypometError) return null
    throw e
  }
}

/** The time at which a target has gone farthest. */
export function farthestTime({ u, v, w }: TargetField): number {
  let [at, most] = [0, -1]
  for (let k = 0; k < u.length; k++)
    for (let i = 0; i < u[k]!.length; i++) {
      const size = u[k]![i]! ** 2 + v[k]![i]! ** 2 + w[k]![i]! ** 2
      if (size > most) [at, most] = [i, size]
    }
  return at
}

/** A picture whose targets are off their mean by so many times what they scatter, squared, is no rest any more. */
const MOVED = 3

/**
 * How many pictures at the beginning show the targets at rest: as long as they stay where they were before within what
 * they scatter from one picture to the next. At most half of them.
 */
export function restOf(targets: readonly Target[]): number {
  const n = targets[0]?.x.length ?? 0
  const off = (i: number, from: (k: number) => Point): number => {
    const squares = targets
      .map((target, k) => {
        const d = minus(placeIn(target, i), from(k))
        return dot(d, d)
      })
      .filter(Number.isFinite)
    return squares.reduce((s, v) => s + v, 0) / squares.length
  }
  const jumps = Array.from({ length: Math.max(0, n - 1) }, (_, i) => off(i + 1, k => placeIn(targets[k]!, i)) / 2)
  const known = jumps.filter(Number.isFinite).sort((a, b) => a - b)
  const scatter = known[Math.floor(known.length / 2)] ?? 0
  const sums = targets.map(() => ({ at: [0, 0, 0], count: 0 }))
  const most = Math.max(1, Math.floor(n / 2))
  for (let i = 0; i < most; i++) {
    const isOff = (at: number) => off(at, k => meanOfSum(sums[k]!)) > MOVED * (1 + 1 / i) * scatter
    if (i > 0 && isOff(i)) {
      if (i + 1 >= n || isOff(i + 1)) return i
      // A single wild picture is no motion, and tells no place.
      continue
    }
    targets.forEach((target, k) => {
      const p = placeIn(target, i)
      if (!p.every(Number.isFinite)) return
      sums[k]!.count++
      p.forEach((v, axis) => (sums[k]!.at[axis]! += v))
    })
  }
  return most
}

const placeIn = (target: Target, i: number): Point => point(axis => target[AXES[axis]][i]!)
const meanOfSum = ({ at, count }: { at: number[]; count: number }): Point => point(axis => at[axis]! / count)
