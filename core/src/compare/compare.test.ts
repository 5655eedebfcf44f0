import { describe, expect, it } from 'vitest'
import { differenceCurve, differenceOf, explain, repeatability, SeededRandom, wayOut } from '../index'

describe('two curves over one grid', () => {
  it('tells by hand where the second lost: y = x against y = 2x − 3 over 1 … 5', () => {
    const d = differenceCurve({ x: [0, 5], y: [0, 5] }, { x: [1, 9], y: [-1, 15] })!
    expect([d.x[0], d.x.at(-1)]).toEqual([1, 5])
    // b − a = x − 3: mean 0, lost 2 at 1, gained 2 at 5, below up to 3.
    expect(d.mean).toBeCloseTo(0, 12)
    expect([d.lost, d.gained]).toEqual([
      { x: 1, by: expect.closeTo(2, 12) as number },
      { x: 5, by: expect.closeTo(2, 12) as number },
    ])
    expect(d.below![0]).toBe(1)
    expect(d.below![1]).toBeNear(3, 0.01)
    expect(differenceCurve({ x: [0, 1], y: [0, 1] }, { x: [2, 3], y: [0, 1] })).toBeNull()
  })

  it('takes the way out of a curve that comes back, over its gaps', () => {
    expect(wayOut({ x: [0, 1, null, 2, 1.5, 3], y: [0, 5, 6, 7, 9, 8] })).toEqual({ x: [0, 1, 2, 3], y: [0, 5, 7, 8] })
    expect(repeatability(98, 102)).toBeCloseTo(0.04, 12)
  })

  it('a difference counts beyond the uncertainty of both', () => {
    const result = (value: number, u: number) => ({ value, bound: 'exact' as const, u, k: 2 })
    expect(differenceOf(result(100, 1), result(103, 1))).toMatchObject({ effect: 3, U: Math.hypot(2, 2), moved: 'yes' })
    expect(differenceOf(result(100, 1), result(102, 1)).moved).toBe('no')
    expect(differenceOf(result(100, 1), undefined).moved).toBeNull()
  })
})

describe('explanations of data', () => {
  const x = Array.from({ length: 60 }, (_, i) => i / 10)
  const random = new SeededRandom(5)
  const y = x.map(v => 3 * (1 - Math.exp(-0.8 * v)) + 0.02 * random.normal())
  const soft = {
    name: 'approach',
    kind: 'expression' as const,
    expression: 'a*(1 - exp(-b*x))',
    parameters: [
      { name: 'a', start: 1 },
      { name: 'b', start: 0.3 },
    ],
  }
  const straight = {
    name: 'straight',
    kind: 'expression' as const,
    expression: 'c*x',
    parameters: [{ name: 'c', start: 1 }],
  }

  it('are fitted and ranked; a further reading where the best two part is named', () => {
    const shares: number[] = []
    const found = explain({ x, y }, [straight, soft], s => shares.push(s))
    expect(found.ranking).toEqual([1, 0])
    const [a, b] = found.models[1]!.parameters
    expect(Math.abs(a!.value - 3)).toBeLessThan(4 * a!.u!)
    expect(Math.abs(b!.value - 0.8)).toBeLessThan(4 * b!.u!)
    expect(found.evidenceRatio).toBeGreaterThan(1e6)
    expect(found.separator!.isBeyond).toBe(true)
    expect(found.separator!.x).toBeCloseTo(5.9 * 1.5, 9)
    expect(shares).toEqual([0, 0.5, 1])
  })

  it('by hand: two straight lines, AICc from their sums of squares', () => {
    const data = { x: [0, 1, 2, 3, 4, 5], y: [0, 1.9, 4.1, 6, 8.2, 9.8] }
    const found = explain(data, [
      { name: 'two', kind: 'curve', x: [0, 5], y: [0, 10] },
      { name: 'fitted', kind: 'expression', expression: 'm*x', parameters: [{ name: 'm', start: 1 }] },
    ])
    // rss = 0.1² + 0.1² + 0 + 0.2² + 0.2² = 0.1; K = 1: 6 ln(0.1/6) + 2 + 4/4.
    expect(found.models[0]!.rss).toBeCloseTo(0.1, 12)
    expect(found.models[0]!.aicc).toBeCloseTo(6 * Math.log(0.1 / 6) + 2 + 1, 9)
    // m = Σxy/Σx² = 109.9/55.
    expect(found.models[1]!.parameters[0]!.value).toBeCloseTo(109.9 / 55, 9)
  })

  it('a table of responses is read between its columns; what cannot be resolved is said', () => {
    const table = {
      name: 'clamp',
      kind: 'responses' as const,
      parameter: 'stiffness',
      values: [1, 2, 3],
      x: [0, 6],
      y: [
        [0, 6],
        [0, 12],
        [0, 18],
      ],
    }
    const found = explain({ x, y: x.map(v => 2.4 * v + (v > 3 ? 0.01 : -0.01)) }, [table])
    expect(found.models[0]!.parameters[0]!.value).toBeCloseTo(2.4, 2)
    expect(found.verdict).toContain('Only')
    const twins = explain({ x, y }, [
      {
        name: 'both',
        kind: 'expression',
        expression: '(a + b)*x',
        parameters: [
          { name: 'a', start: 1 },
          { name: 'b', start: 1 },
        ],
      },
    ])
    expect(twins.models[0]!.doubts.join()).toMatch(/cannot be resolved/)
    const alike = explain({ x, y }, [soft, { ...soft, name: 'same again' }])
    expect(alike.verdict).toContain('do not tell')
  })
})
