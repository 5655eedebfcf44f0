import { expect, it } from 'vitest'
import { applyFaults, drawFaults, FAULT_KINDS, type Fault, type FaultKind, type FaultMemory } from './faults'

const fault = (kind: Fault['kind'], at = 10): Fault => ({ kind, role: 'tip', label: 'Tip', at })
/** A reading that rises by one a second, in blocks of five seconds. */
function run(f: Fault, until = 20): number[] {
  const memory: FaultMemory = {}
  return [0, 5, 10, 15]
    .filter(t => t < until)
    .flatMap(t0 => {
      const t = [0, 1, 2, 3, 4].map(k => t0 + k)
      return applyFaults([f], { t, channels: { tip: t, load: t } }, memory).channels['tip']!
    })
}

it('a fault changes only its channel, only from its time on, across blocks', () => {
  expect(run(fault('gauge-dies')).slice(8)).toEqual([8, 9, ...Array(10).fill(9)])
  expect(run(fault('clips'))[19]).toBe(9)
  expect(run(fault('over-range')).slice(8, 12)).toEqual([8, 9, 30, 33])
  expect(run(fault('dips')).slice(9, 14)).toEqual([9, expect.closeTo(20 / 3, 9), expect.closeTo(22 / 3, 9), 12, 13])
  // Three hundredths a second: at 15 s, five seconds on, 15 % short.
  expect(run(fault('parts'))[15]).toBeCloseTo(15 * 0.85, 9)
  expect(run(fault('drifts'))[15]).toBeCloseTo(15 + 0.01 * 9 * 5, 9)
})

it('the same seed draws the same surprise, in the middle of the ladder; every kind comes at some seed', () => {
  const channels = [
    { role: 'load', label: 'Load', expression: null },
    { role: 'tip', label: 'Tip', expression: null },
    { role: 'sum', label: 'Sum', expression: 'load' },
  ]
  const draw = (seed: number) => drawFaults(seed, channels, 'load', 200)
  expect(draw(7)).toEqual(draw(7))
  const drawn = Array.from({ length: 200 }, (_, seed) => draw(seed)[0]!)
  for (const f of drawn)
    expect([
      f.at >= 60 && f.at <= 140,
      f.role !== 'sum',
      FAULT_KINDS[f.kind].of === 'channel' || f.role === 'load',
    ]).toEqual([true, true, true])
  expect(new Set(drawn.map(f => f.kind))).toEqual(new Set(Object.keys(FAULT_KINDS) as FaultKind[]))
})
