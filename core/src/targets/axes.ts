import { HypometError } from '../error'
import { symmetricEigen } from '../statistics/symmetricEigen'
import { centreOf, cross, minus, norm, point, scaled, type Point } from '../geometry/point'

/** Right-handed directions of an article in the axes of its file: along it, across, and out of its plane. */
export type Axes = readonly [along: Point, across: Point, out: Point]

/** How an article lies in the axes of its file. */
export type AxesSaid =
  | { by: 'file'; along: 'x' | 'y' | 'z'; out: 'x' | 'y' | 'z' }
  /** Along where its targets spread most, out where they spread least. */
  | { by: 'spread' }
  /** Along from one place to another; a third lies across, in its plane. */
  | { by: 'places'; from: string; to: string; across: string }

export const FILE_AXES: AxesSaid = { by: 'file', along: 'x', out: 'z' }

/** Places at rest by the names of their targets. */
export interface Places {
  names: readonly string[]
  at: readonly Point[]
}

/**
 * An article's axes.
 *
 * @throws HypometError `setting-range` where along and out are one axis or a place is not there, `data-range` where the
 *   places are too few or on one line
 */
export function axesOf(said: AxesSaid, { names, at }: Places): Axes {
  if (said.by === 'file') {
    if (said.along === said.out)
      throw new HypometError('setting-range', 'Along and out of the plane are two axes.', { path: 'axes.out' })
    return rightHanded(unit(said.along), unit(said.out))
  }
  if (said.by === 'spread') return bySpread(at)
  const placeOf = (name: string, path: string): Point => {
    const found = at[names.indexOf(name)]
    if (!found) throw new HypometError('setting-range', `There is no target “${name}”.`, { path: `axes.${path}` })
    return found
  }
  const from = placeOf(said.from, 'from')
  const along = minus(placeOf(said.to, 'to'), from)
  const out = cross(along, minus(placeOf(said.across, 'across'), from))
  if (norm(out) < ON_LINE * norm(along) ** 2)
    throw new HypometError('data-range', 'These three targets lie on one line: choose one beside it.', {
      path: 'axes.across',
    })
  return rightHanded(scaled(along), scaled(out))
}

const ON_LINE = 1e-3

function bySpread(at: readonly Point[]): Axes {
  if (at.length < 3)
    throw new HypometError('data-range', 'Axes by their spread take at least three targets.', { path: 'axes' })
  const middle = centreOf(at)
  const spread = [0, 1, 2].map(i =>
    [0, 1, 2].map(j => at.reduce((s, p) => s + (p[i]! - middle[i]!) * (p[j]! - middle[j]!), 0)),
  )
  const { values, vectors } = symmetricEigen(spread)
  const [most, , least] = [0, 1, 2].sort((a, b) => values[b]! - values[a]!)
  const vector = (k: number) => towards(point(i => vectors[i]![k]!))
  return rightHanded(vector(most!), vector(least!))
}

/** Of a direction and its opposite the one whose largest part is positive. */
function towards(p: Point): Point {
  const largest = p.reduce((m, v) => (Math.abs(v) > Math.abs(m) ? v : m))
  return largest < 0 ? point(i => -p[i]) : p
}

const unit = (axis: 'x' | 'y' | 'z'): Point => point(i => ('xyz'[i] === axis ? 1 : 0))

const rightHanded = (along: Point, out: Point): Axes => [along, cross(out, along), out]
