import { describe, expect, it } from 'vitest'
import { rigidMotion, type Point } from './rigidMotion'
import { farthestTime, shapeAt, stretchBetween, targetField, targetsOf, targetsOfRows } from './targets'

const turned = (angle: number, [x, y, z]: Point): Point => [
  x * Math.cos(angle) - y * Math.sin(angle),
  x * Math.sin(angle) + y * Math.cos(angle),
  z,
]
const shifted = ([x, y, z]: Point, d: Point): Point => [x + d[0], y + d[1], z + d[2]]

describe('the motion of what holds an article', () => {
  const points: Point[] = [
    [0, 0, 0],
    [1, 0, 0.1],
    [0, 0.7, 0],
    [0.4, 0.2, 0.5],
  ]

  it('is found as it was put in', () => {
    const motion = rigidMotion(
      points,
      points.map(p => shifted(turned(0.3, p), [0.01, -0.02, 0.5])),
    )!
    expect(motion.angle).toBeCloseTo(0.3, 12)
    expect(motion.residual).toBeLessThan(1e-12)
    expect(motion.turn[0][1]).toBeCloseTo(-Math.sin(0.3), 12)
  })

  it('is not told by points on one line', () =>
    expect(
      rigidMotion(
        [
          [0, 0, 0],
          [1, 1, 1],
          [2, 2, 2],
        ],
        [
          [0, 0, 0],
          [1, 1, 1],
          [2, 2, 2],
        ],
      ),
    ).toBeNull())
})

describe('a field of targets', () => {
  const steps = 5
  const motionOf =
    (i: number) =>
    (p: Point): Point =>
      shifted(turned(0.002 * i, p), [0.001 * i, 0, 0.003 * i])
  const holders: [string, Point][] = [
    ['F1', [0, -0.2, 0]],
    ['F2', [0, 0.2, 0]],
    ['F3', [-0.1, 0, 0]],
  ]
  const beam: [string, Point][] = [0.5, 1, 1.5, 2].flatMap((x, k): [string, Point][] => [
    [`L${k}`, [x, -0.1, 0]],
    [`R${k}`, [x, 0.1, 0]],
  ])
  /** Bends with x², twists with x·y. */
  const bent = (i: number, [x, y, z]: Point): Point => [x, y, z - 0.001 * i * x * x + 0.0005 * i * x * y]
  const columns: Record<string, Float64Array> = {}
  for (const [name, home] of [...holders, ...beam]) {
    const path = Array.from({ length: steps }, (_, i) => motionOf(i)(name.startsWith('F') ? home : bent(i, home)))
    ;(['x', 'y', 'z'] as const).forEach((axis, k) => {
      columns[`${name} ${axis}`] = Float64Array.from(path, p => p[k]!)
    })
  }
  const units = Object.fromEntries(Object.keys(columns).map(c => [c, 'm']))
  const targets = targetsOf({ ...columns, force: new Float64Array(steps) }, { ...units, force: 'N' })

  it('is read from columns that end in x, y and z, and the fixture’s motion leaves the bend alone', () => {
    expect(targets).toHaveLength(11)
    const field = targetField(targets, [0, 1], ['F1', 'F2', 'F3'])
    const tip = field.names.indexOf('L3')
    expect(field.w[tip]![4]).toBeCloseTo(-0.001 * 4 * 4 + 0.0005 * 4 * 2 * -0.1, 9)
    expect(field.u[tip]![4]).toBeCloseTo(0, 9)
    expect(field.fixture[4]!.angle).toBeCloseTo(0.008, 9)
    expect(farthestTime(field)).toBe(4)
    expect(shapeAt(field, 4)!.twist).toBeCloseTo(0.0005 * 4 * 1.5, 9)
  })

  it('tells the strain between two targets, whatever turns them together', () => {
    const at = (name: string, home: Point, stretch: number) => {
      const path = Array.from({ length: 3 }, (_, i) => turned(0.1 * i, [home[0] * (1 + stretch * i), home[1], home[2]]))
      return {
        name,
        x: Float64Array.from(path, p => p[0]),
        y: Float64Array.from(path, p => p[1]),
        z: Float64Array.from(path, p => p[2]),
      }
    }
    const strain = stretchBetween(targetField([at('a', [0, 0, 0], 0), at('b', [0.3, 0, 0], 500e-6)], [0, 1], []), 0, 1)
    expect([...strain]).toEqual([0, expect.closeTo(500e-6, 10), expect.closeTo(1000e-6, 10)])
  })

  it('is refused a fixture of two targets', () =>
    expect(() => targetField(targets, [0, 1], ['F1', 'F2'])).toThrowError(/at least three/))

  it('is read from rows as well, with gaps where a target was not seen', () => {
    const { times, targets: rows } = targetsOfRows(
      Float64Array.of(0, 0, 1),
      ['a', 'b', 'a'],
      [Float64Array.of(1, 2, 3), Float64Array.of(4, 5, 6), null],
    )
    expect([...times]).toEqual([0, 1])
    expect(rows.map(t => [...t.x])).toEqual([
      [1, 3],
      [2, NaN],
    ])
  })
})
