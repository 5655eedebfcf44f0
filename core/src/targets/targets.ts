import { HypometError } from '../error'
import { leastSquares } from '../statistics/leastSquares'
import { movedBack, point, rigidMotion, type Point, type RigidMotion } from './rigidMotion'

/** Positions of one image target over time, m; NaN where it was not seen. */
export interface Target {
  name: string
  x: Float64Array
  y: Float64Array
  z: Float64Array
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
  const byName = new Map<string, Partial<Record<(typeof AXES)[number], Float64Array>>>()
  for (const [column, values] of Object.entries(columns)) {
    const match = /^(.+?)[\s_.-]?([xyzXYZ])$/.exec(column.replace(/\s*[[(][^\])]*[\])]$/, ''))
    if (!match || units[column] !== 'm') continue
    const axis = match[2]!.toLowerCase() as (typeof AXES)[number]
    byName.set(match[1]!, { ...byName.get(match[1]!), [axis]: values })
  }
  return [...byName].flatMap(([name, { x, y, z }]) =>
    x && y ? [{ name, x, y, z: z ?? new Float64Array(x.length) }] : [],
  )
}

/** A record of rows – time, name of the target, its place – as targets over the times that all share. */
export function targetsOfRows(
  t: Float64Array,
  names: readonly string[],
  [x, y, z]: readonly [Float64Array, Float64Array, Float64Array | null],
): { times: Float64Array; targets: Target[] } {
  const times = Float64Array.from([...new Set(t)].sort((a, b) => a - b))
  const at = new Map([...times].map((v, i) => [v, i]))
  const empty = () => new Float64Array(times.length).fill(NaN)
  const targets = new Map<string, Target>()
  names.forEach((name, row) => {
    const target = targets.get(name) ?? { name, x: empty(), y: empty(), z: empty() }
    targets.set(name, target)
    const i = at.get(t[row]!)!
    target.x[i] = x[row]!
    target.y[i] = y[row]!
    target.z[i] = z?.[row] ?? 0
  })
  return { times, targets: [...targets.values()] }
}

/** Where the targets of an article went once the motion of what holds it is taken off. */
export interface TargetField {
  names: string[]
  /** Places at rest, m. */
  x: number[]
  y: number[]
  z: number[]
  /** Displacement by target, then time, m. */
  u: Float64Array[]
  v: Float64Array[]
  w: Float64Array[]
  /** Motion of the fixture at each time; null where too few of its targets were seen, or none are named. */
  fixture: (RigidMotion | null)[]
}

const FEWEST_HOLDERS = 3

/**
 * Displacements of targets against their mean places in the rest at the beginning, with the rigid motion of the
 * fixture's
 * targets taken off by least squares at each time.
 *
 * @param rest  indices [from, to) at which nothing is loaded
 * @param fixture  names of targets on what holds the article; none takes nothing off
 * @throws HypometError `data-range` below three fixture targets, or where they lie on one line
 */
export function targetField(
  targets: readonly Target[],
  [from, to]: readonly [number, number],
  fixture: readonly string[],
): TargetField {
  const place = (t: Target): Point => point(i => meanOf(t[AXES[i]].subarray(from, to)))
  const holders = targets.filter(t => fixture.includes(t.name))
  const rest = holders.map(place)
  if (fixture.length > 0 && (holders.length < FEWEST_HOLDERS || !rigidMotion(rest, rest)))
    throw new HypometError(
      'data-range',
      'A rigid motion takes at least three targets of the fixture that are not on one line.',
      { path: 'fixture' },
    )
  const n = targets[0]?.x.length ?? 0
  const motions = Array.from({ length: n }, (_, i) => (fixture.length === 0 ? null : motionAt(holders, rest, i)))
  const seen = targets.filter(t => !fixture.includes(t.name) && Number.isFinite(place(t)[0]))
  const field: TargetField = {
    names: seen.map(t => t.name),
    x: [],
    y: [],
    z: [],
    u: [],
    v: [],
    w: [],
    fixture: motions,
  }
  for (const target of seen) {
    const home = place(target)
    const [u, v, w] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)]
    for (let i = 0; i < n; i++) {
      const now: Point = [target.x[i]!, target.y[i]!, target.z[i]!]
      const back = motions[i] ? movedBack(motions[i]!, now) : fixture.length > 0 ? ([NaN, NaN, NaN] as const) : now
      u[i] = back[0] - home[0]
      v[i] = back[1] - home[1]
      w[i] = back[2] - home[2]
    }
    home.forEach((c, k) => field[AXES[k]!].push(c))
    field.u.push(u)
    field.v.push(v)
    field.w.push(w)
  }
  return field
}

function motionAt(holders: readonly Target[], rest: readonly Point[], i: number): RigidMotion | null {
  const seen = holders
    .map((h, k) => ({ from: rest[k]!, to: [h.x[i]!, h.y[i]!, h.z[i]!] as Point }))
    .filter(p => p.to.every(Number.isFinite))
  return rigidMotion(
    seen.map(p => p.from),
    seen.map(p => p.to),
  )
}

const meanOf = (y: Float64Array): number => {
  const known = y.filter(v => !Number.isNaN(v))
  return known.reduce((a, b) => a + b, 0) / known.length
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
