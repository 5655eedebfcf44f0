import { expect, it } from 'vitest'
import { debrief } from './debrief'
import type { Fault } from './faults'

const fault = (kind: Fault['kind'], at = 10): Fault => ({ kind, role: 'tip', label: 'Tip', at })

it('the debrief says who noticed, how long it took to hold, and what was missed', () => {
  const events = [
    { t: 4, kind: 'hold', by: 'Ada', note: '' },
    { t: 12, kind: 'watch', by: 'watch rule', note: 'Tip off the line', role: 'tip' },
    { t: 15.5, kind: 'mark', by: 'Bo', note: 'tip looks odd' },
    { t: 18, kind: 'hold', by: 'Bo', note: '' },
  ]
  expect(debrief([fault('parts')], events, 60)[0]).toMatchObject({
    words: 'Tip parts from what it ought to read, a little more each second',
    watched: { after: 2 },
    noticed: { after: 5.5, by: 'Bo', kind: 'mark' },
    stopped: { after: 8, by: 'Bo' },
    missed: false,
  })
  expect(debrief([fault('parts', 30)], events, 60)[0]).toMatchObject({
    watched: null,
    noticed: null,
    stopped: null,
    missed: true,
  })
  // One that had no time to come was not missed.
  expect(debrief([fault('parts', 90)], events, 60)[0]).toMatchObject({ came: false, missed: false })
})

it('a word about another channel is no word about this one; of the rig’s own faults every word counts', () => {
  const events = [
    { t: 12, kind: 'watch', by: 'watch rule', note: 'Load at its range', role: 'load' },
    { t: 14, kind: 'health', by: 'rig', note: 'Tip stands still', role: 'tip' },
  ]
  expect(debrief([fault('gauge-dies')], events, 60)[0]).toMatchObject({
    watched: { after: 4, note: 'Tip stands still' },
    missed: false,
  })
  expect(debrief([fault('gauge-dies')], events.slice(0, 1), 60)[0]).toMatchObject({ watched: null, missed: true })
  expect(debrief([fault('slips')], events, 60)[0]).toMatchObject({
    words: 'The rig slips in its grips: a fifth of the load is gone at once',
    watched: { after: 2 },
  })
  // A pair that parts is said of both.
  expect(debrief([fault('parts')], [{ ...events[0]!, role: 'tip2 tip' }], 60)[0]).toMatchObject({
    watched: { after: 2 },
  })
})

it('who hears the end of it has not noticed what began it; a word about no channel is about the clock alone', () => {
  const burst = [
    { t: 12, kind: 'clock', by: 'rig', note: 'stamps run ahead' },
    { t: 20, kind: 'article broke', by: 'rig', note: '' },
    { t: 20.5, kind: 'abort', by: 'Bo', note: '' },
  ]
  expect(debrief([fault('leaks')], burst, 60)[0]).toMatchObject({
    watched: null,
    noticed: null,
    stopped: { after: 10.5, by: 'Bo' },
    missed: true,
  })
  expect(debrief([fault('clock-runs-fast')], burst, 60)[0]).toMatchObject({ watched: { after: 2 }, missed: false })
  const leak = [{ t: 13, kind: 'watch', by: 'watch rule', note: 'falls in the hold', role: 'tip' }, ...burst]
  expect(debrief([fault('leaks')], leak, 60)[0]).toMatchObject({ watched: { after: 3 }, missed: false })
})
