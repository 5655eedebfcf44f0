/** A place or a direction in space. */
export type Point = readonly [number, number, number]

/** A point from what it has along each axis. */
export const point = (of: (axis: 0 | 1 | 2) => number): Point => [of(0), of(1), of(2)]

export const dot = (a: Point, b: Point): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
export const minus = (a: Point, b: Point): Point => point(i => a[i] - b[i])
export const cross = (a: Point, b: Point): Point => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]
export const norm = (p: Point): number => Math.hypot(p[0], p[1], p[2])
export const scaled = (p: Point): Point => {
  const size = norm(p)
  return point(i => p[i] / size)
}
export const centreOf = (points: readonly Point[]): Point =>
  point(i => points.reduce((s, p) => s + p[i], 0) / points.length)
