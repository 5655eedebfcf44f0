import { expect, it } from 'vitest'
import { applyFaults, debrief, drawFaults, type Fault, type FaultMemory } from './faults'

const fault = (kind: Fault['kind'], at = 10): Fault => ({ kind, role: 'tip', label: 'Tip', at })
/** A reading that rises by one a second, in blocks of five seconds. */
function run(f: Fault, until = 20): number[] {
  const memory: FaultMemory = {}
  return [0, 5, 10, 15].filter(t => t < until).flatMap(t0 => {
    const t = [0, 1, 2, 3, 4].map(k => t0 + k)
    return applyFaults([f], { t, channels: { tip: t, load: t } }, memory).channels['tip']!
  })
}

it('a fault changes only its channel, only from its time on, across blocks', () => {
  expect(run(fault('gauge-dies')).slice(8)).toEqual([8, 9, ...Array(10).fill(9)])
  expect(run(fault('clips'))[19]).toBe(9)
  expect(run(fault('dips')).slice(9, 14)).toEqual([9, expect.closeTo(7, 9), expect.closeTo(7.7, 9), 12, 13])
  // Three hundredths a second: at 15 s, five seconds on, 15 % short.
  expect(run(fault('parts'))[15]).toBeCloseTo(15 * 0.85, 9)
  expect(run(fault('drifts'))[15]).toBeCloseTo(15 + 0.01 * 9 * 5, 9)
})

it('the same seed draws the same surprise, in the middle of the ladder', () => {
  const channels = [{ role: 'load', label: 'Load', kind: 'force' as const, expression: null }, { role: 'sum', label: 'Sum', kind: 'force' as const, expression: 'load' }]
  const [a, b] = [drawFaults(7, channels, 200), drawFaults(7, channels, 200)]
  expect(a).toEqual(b)
  for (let seed = 0; seed < 50; seed++) for (const f of drawFaults(seed, channels, 200)) expect([f.role, f.at >= 60 && f.at <= 140]).toEqual(['load', true])
})

it('the debrief says who noticed, how long it took to hold, and what was missed', () => {
  const events = [{ t: 4, kind: 'hold', by: 'Ada', note: '' }, { t: 12, kind: 'watch', by: 'watch rule', note: 'Tip off the line' }, { t: 15.5, kind: 'mark', by: 'Bo', note: 'tip looks odd' }, { t: 18, kind: 'hold', by: 'Bo', note: '' }]
  expect(debrief([fault('parts')], events, 60)[0]).toMatchObject({ words: 'Tip parts from what it ought to read, a little more each second', watched: { after: 2 }, noticed: { after: 5.5, by: 'Bo', kind: 'mark' }, stopped: { after: 8, by: 'Bo' }, missed: false })
  expect(debrief([fault('parts', 30)], events, 60)[0]).toMatchObject({ watched: null, noticed: null, stopped: null, missed: true })
  // One that had no time to come was not missed.
  expect(debrief([fault('parts', 90)], events, 60)[0]).toMatchObject({ came: false, missed: false })
})
