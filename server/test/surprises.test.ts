import { debrief, FAULT_KINDS, type Fault, type FaultKind } from '@hypomet/core'
import { describe, expect, it } from 'vitest'
import { played } from './liveRun'

/* Every surprise of a rehearsal with nobody at the console: what the debrief then says must be so. */

const channel = (role: string, kind: string, expected: number, twin?: string) => ({
  role,
  label: role,
  kind,
  expected,
  ...(twin ? { twin } : {}),
})
const PLAN = {
  loading: { kind: 'pull', path: [{ name: 'Strop', capacity: 40_000, article: true }] },
  referenceStrength: 40_000,
  rungs: [0, 5000, 10_000, 15_000, 20_000, 0].map(target => ({ target, hold: 12 })),
  ramp: 4,
  rate: 10,
  channels: [
    channel('force', 'force', 20_000),
    channel('displacement', 'length', 0.1, 'second'),
    channel('second', 'length', 0.1),
  ],
}
const WATCH = [
  { kind: 'twin', role: 'displacement', value: { value: 3, unit: 'mm' }, action: 'hold' },
  { kind: 'leak', role: 'force', value: { value: 20, unit: 'N/s' }, action: 'warn' },
  { kind: 'failure', role: 'force', value: 0.05, action: 'hold' },
]

const rehearsed = (fault: Fault) => played({ family: 'pull', plan: PLAN, seed: 7, faults: [fault], watch: WATCH })

const faultOf = (kind: FaultKind, at: number): Fault => {
  const role = FAULT_KINDS[kind].of === 'rig' ? 'force' : 'displacement'
  return { kind, role, label: role, at }
}
const KINDS = Object.keys(FAULT_KINDS) as FaultKind[]

describe('a surprise with nobody at the console', () => {
  it.each(KINDS)('%s: nobody is said to have noticed, and what is credited names it', async kind => {
    const fault = faultOf(kind, 50)
    const { events, end } = await rehearsed(fault)
    const [row] = debrief([fault], events, end)
    expect(row).toMatchObject({ came: true, noticed: null })
    const after = events.filter(e => e.t >= 50)
    const spoken = after.filter(e => ['watch', 'health', 'clock', 'guard lost'].includes(e.kind))
    if (row!.watched) {
      // What is credited is a word that was said, after the fault, of its channel or of what the whole rig shows.
      const word = spoken.find(e => Math.abs(e.t - 50 - row!.watched!.after) < 1e-9 && e.note === row!.watched!.note)
      expect(word, row!.watched.note).toBeDefined()
      if (FAULT_KINDS[kind].of === 'channel') expect(word!.role!.split(' ')).toContain('displacement')
      const broke = after.find(e => e.kind === 'article broke')
      if (broke) expect(word!.t).toBeLessThan(broke.t)
    }
    expect(row!.missed).toBe(row!.watched === null)
    // A hold is credited to what said it, never to a person.
    if (row!.stopped) expect(['watch rule', 'rig', 'recorder', 'stream']).toContain(row!.stopped.by)
  })

  it.each(KINDS)('%s before anything is wrong: not a word of it', async kind => {
    const { events } = await rehearsed(faultOf(kind, 1e6))
    expect(events.filter(e => ['watch', 'health', 'clock', 'guard lost'].includes(e.kind)).map(e => e.note)).toEqual([])
  })

  it('with the rules that look for it each is found but one that shows on nothing', async () => {
    const found: FaultKind[] = []
    for (const kind of KINDS) {
      const fault = faultOf(kind, 50)
      const { events, end } = await rehearsed(fault)
      if (debrief([fault], events, end)[0]!.watched) found.push(kind)
    }
    expect(found).toEqual(expect.arrayContaining(['gauge-dies', 'parts', 'over-range', 'slips', 'leaks', 'dips']))
  })
})
