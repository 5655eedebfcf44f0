import { describe, expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { calibrate, readCalibration } from './calibration'

describe('a calibration table', () => {
  it('is read as pasted, straight between its points, its end pieces going on', () => {
    const table = readCalibration('0\t0\n1,5  30\n4; 40\n')
    expect(table).toEqual([
      [0, 0],
      [1.5, 30],
      [4, 40],
    ])
    expect(Array.from(calibrate(Float64Array.of(-1, 0, 0.75, 1.5, NaN, 2.75, 4, 6.5, 0.3), table))).toEqual([
      -20,
      0,
      15,
      30,
      NaN,
      35,
      40,
      50,
      6,
    ])
  })

  it('goes one way only', () => {
    for (const [pasted, message] of [
      ['1 2', 'two points'],
      ['0 0\n0 1', 'point 2'],
      ['0 0\n1 2\n2 1', 'turns back'],
      ['0 a\n1 2', 'Line 1'],
      ['0 3\n1 2\n2 2', 'turns back'],
    ] as const)
      expect(refusal(() => readCalibration(pasted)).message, pasted).toContain(message)
  })
})
