import { describe, expect, it } from 'vitest'
import { meanSd } from '../statistics/mean'
import { SeededRandom } from '../statistics/random'
import { axesOf } from './axes'
import { cylinderOf, developed } from './cylinder'
import { fixtureNoise } from './fixtureNoise'
import { cross, dot, minus, scaled, type Point } from '../geometry/point'
import { movedBack, rigidMotion } from '../geometry/rigidMotion'
import { farthestTime, restOf, shapeAt, stretchBetween, targetField, targetsOf, targetsOfRows } from './targets'

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

describe('axes of an article', () => {
  const names = ['root', 'tip', 'edge', 'half']
  // A span along y that leans, its chord along −x.
  const at: Point[] = [
    [0, 0, 0],
    [0, 2, 0.2],
    [-0.3, 0.1, 0.01],
    [0, 1, 0.1],
  ]

  it('go along whichever axis of the file, right-handed', () => {
    const [along, across, out] = axesOf({ by: 'file', along: 'y', out: 'z' }, { names, at })
    expect([along, across, out]).toEqual([
      [0, 1, 0],
      [-1, 0, 0],
      [0, 0, 1],
    ])
    expect(() => axesOf({ by: 'file', along: 'y', out: 'y' }, { names, at })).toThrowError(/two axes/)
  })

  it('by the article’s own places, and by what spreads most and least', () => {
    const span = Math.hypot(2, 0.2)
    for (const said of [
      { by: 'places', from: 'root', to: 'tip', across: 'edge' } as const,
      { by: 'spread' } as const,
    ]) {
      const [along, across, out] = axesOf(said, { names, at })
      expect(Math.abs(along[1])).toBeGreaterThan(0.97)
      expect(cross(along, across).map((v, i) => v - out[i]!)).toEqual([0, 0, 0].map(() => expect.closeTo(0, 12)))
    }
    const [along] = axesOf({ by: 'places', from: 'root', to: 'tip', across: 'edge' }, { names, at })
    expect(along[2]).toBeCloseTo(0.2 / span, 12)
    expect(() => axesOf({ by: 'places', from: 'root', to: 'tip', across: 'half' }, { names, at })).toThrowError(/line/)
  })
})

describe('a shell', () => {
  const axis = scaled([0.1, -0.05, 1])
  const shell = (radius: number, noise = 0): Point[] => {
    const random = new SeededRandom(4)
    const a = scaled(cross([0, 1, 0], axis))
    const b = cross(axis, a)
    return Array.from({ length: 40 }, (_, k) => {
      // A third of the way around, as cameras see it.
      const [angle, h] = [((k % 8) / 8) * 2, Math.floor(k / 8) * 0.1]
      const r = radius + noise * random.normal()
      return [0, 1, 2].map(
        i => 0.7 + r * (Math.cos(angle) * a[i]! + Math.sin(angle) * b[i]!) + h * axis[i]!,
      ) as unknown as Point
    })
  }

  it('is found from a part of its wall, leaning as it leans', () => {
    const found = cylinderOf(shell(0.4), [0, 0, 1])
    expect(found.radius).toBeCloseTo(0.4, 8)
    expect(Math.abs(dot(found.axis, axis))).toBeCloseTo(1, 10)
    expect(cylinderOf(shell(0.4, 50e-6), [0, 0, 1]).radius).toBeCloseTo(0.4, 3)
  })

  it('is developed: arc by height, with what goes outwards as radial', () => {
    const places = shell(0.4)
    const unrolled = developed(places, cylinderOf(places, [0, 0, 1]))
    expect(Math.abs(unrolled[1]!.around - unrolled[0]!.around)).toBeCloseTo(0.4 * 0.25, 8)
    expect(unrolled[8]!.along - unrolled[0]!.along).toBeCloseTo(0.1, 8)
    const grown = shell(0.401)
    unrolled.forEach((d, k) => {
      expect(dot(minus(grown[k]!, places[k]!), d.radial)).toBeCloseTo(0.001, 8)
      expect(dot(d.radial, d.tangent)).toBeCloseTo(0, 12)
    })
  })

  it('is not made of a plane', () =>
    expect(() =>
      cylinderOf(
        Array.from({ length: 12 }, (_, k): Point => [k % 4, Math.floor(k / 4), 0]),
        [0, 1, 0],
      ),
    ).toThrowError(/no cylinder/))
})

describe('the uncertainty of a motion taken off', () => {
  const holders: Point[] = [
    [0, -0.05, 0],
    [0, 0.05, 0],
    [-0.08, 0, 0.01],
  ]
  const far: Point = [1.9, 0.1, 0]

  it('is what repeated pictures show, at the far end many times the noise of a target', () => {
    const sigma = 20e-6
    const noise = fixtureNoise(
      holders,
      holders.map(() => [sigma, sigma, 3 * sigma]),
    )!
    const random = new SeededRandom(11)
    const seen = Array.from({ length: 4000 }, () => {
      const now = holders.map(([x, y, z]): Point => [
        x + sigma * random.normal(),
        y + sigma * random.normal(),
        z + 3 * sigma * random.normal(),
      ])
      return minus(movedBack(rigidMotion(holders, now)!, far), far)
    })
    for (const direction of [[0, 0, 1], [0, 1, 0], scaled([0, 1, 1])] as Point[]) {
      const { sd } = meanSd(seen.map(d => dot(d, direction)))
      expect(noise(far, direction) / sd).toBeGreaterThan(0.95)
      expect(noise(far, direction) / sd).toBeLessThan(1.05)
    }
    expect(noise(far, [0, 0, 1])).toBeGreaterThan(20 * 3 * sigma)
  })

  it('stands with each displacement of a field, in the axes chosen', () => {
    const random = new SeededRandom(3)
    const still = (name: string, [x, y, z]: Point, sd: number) => {
      const path = (v: number) => Float64Array.from({ length: 400 }, () => v + sd * random.normal())
      return { name, x: path(x), y: path(y), z: path(z) }
    }
    const targets = [...holders.map((h, k) => still(`F${k}`, h, 20e-6)), still('tip', far, 20e-6)]
    const field = targetField(targets, [0, 200], ['F0', 'F1', 'F2'], { by: 'file', along: 'y', out: 'x' })
    const { own, all } = field.scatter[0]!
    expect(own[0] / 20e-6).toBeCloseTo(1, 0)
    // Across is −z or z here: the turn about the line of the holders magnifies it.
    expect(all[1] / meanSd(field.v[0]!.subarray(200)).sd).toBeCloseTo(1, 0)
    expect(all[1]).toBeGreaterThan(10 * own[1])
    expect(targetField(targets, [0, 1], ['F0', 'F1', 'F2']).scatter).toEqual([null])
  })

  it('rests as long as nothing moves beyond its scatter; a single wild picture is no motion', () => {
    const random = new SeededRandom(5)
    const path = (home: number, moves: number) =>
      Float64Array.from({ length: 300 }, (_, i) => home + (i > 120 ? moves * (i - 120) : 0) + 10e-6 * random.normal())
    const targets = Array.from({ length: 8 }, (_, k) => ({
      name: `T${k}`,
      x: path(k, 0),
      y: path(0, 0),
      z: path(0, 10e-6 * (k % 4)),
    }))
    targets[3]!.z[40]! += 0.005
    const rest = restOf(targets)
    expect(rest).toBeGreaterThan(119)
    expect(rest).toBeLessThan(126)
    expect(restOf(targets.map(t => ({ ...t, z: t.z.map((v, i) => v + i * 1e-3) })))).toBeLessThan(5)
    expect(restOf([])).toBe(1)
  })
})
