import { describe, expect, it } from 'vitest'
import { lineOfSteps, stepMeans } from './stepMeans'

describe('steps of a channel', () => {
  it('have means over what is there, and a line over the guide from which they stand apart', () => {
    const y = Float64Array.of(1, 3, NaN, 10, 20, NaN, NaN, 7)
    expect(
      Array.from(
        stepMeans(y, [
          { from: 0, to: 3 },
          { from: 3, to: 5 },
          { from: 5, to: 7 },
          { from: 7, to: 99 },
        ]),
      ),
    ).toEqual([2, 15, NaN, 7])
    // By hand: slope 5.1/5, intercept 0.02; farthest the third step, 0.14 of a range of 3.
    const { slope, nonlinearity } = lineOfSteps([0, 1, 2.2, 3], [0, 1, 2, 3])
    expect([slope, nonlinearity]).toEqual([expect.closeTo(1.02, 12), expect.closeTo(0.14 / 3, 12)])
    expect(lineOfSteps([1, NaN, 2], [0, 1, 2])).toEqual({ slope: null, nonlinearity: null })
    expect(lineOfSteps([4, 4, 4], [0, 1, 2])).toEqual({ slope: 0, nonlinearity: null })
    expect(lineOfSteps([1, 2, 3], [5, 5, 5]).slope).toBeNull()
  })
})
