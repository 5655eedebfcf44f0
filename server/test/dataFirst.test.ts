import { existsSync } from 'node:fs'
import { familyOutlines, rolesOfPlan } from '@hypomet/core'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { createArticle, createCampaign } from '../db/campaigns/campaigns'
import { writeRows } from '../db/registers/service'
import { verdictsFor } from '../db/results/judgements'
import { plannedChannels, previewFile } from '../db/records/datasets'
import { createTest, testPage } from '../db/tests/tests'
import { previewHead } from '../jobs/previews'
import { BY, importBytes, reduceAndKeep, refused } from './campaign'
import { gaugesOf, nameGauge } from '../db/records/gauges'
import { temporaryDatabase } from './database'

/* Data that exists before anything was planned: an article by its name, a test without a plan, and a file. */

let server: Awaited<ReturnType<typeof temporaryDatabase>>
let campaignId: number
beforeEach(async () => {
  server = await temporaryDatabase()
  const { id } = await createCampaign(server.database, BY, {
    title: 'Found data',
    purpose: '',
    due: null,
    system: 'metric',
    rule: 'guarded',
    convention: 'margin-of-safety',
    budget: null,
    currency: 'EUR',
  })
  campaignId = id
})
afterEach(() => server.close())

const CELL = { fullScale: { value: 10, unit: 'kN' }, linearity: { value: 1, unit: '%' } }
const utf8 = (text: string) => new TextEncoder().encode(text)
const asIs = { changed: '', why: '', mass: null, parentId: null, properties: {}, facts: [], constants: {} }
async function found(family: string): Promise<{ articleId: number; testId: number }> {
  const about = { name: `Found ${family}`, family, note: '', features: [] }
  const made = await createArticle(server.database, BY, campaignId, { ...about, revision: { ...asIs, label: 'A' } })
  const { id } = await createTest(server.database, BY, made.revision.id, { title: 'As recorded', plan: null })
  return { articleId: made.id, testId: id }
}

describe('a test without a plan', () => {
  it.each(familyOutlines.map(f => f.id))('%s: named, and a file may be mapped to what its kind reads', async family => {
    const { testId } = await found(family)
    const channels = await plannedChannels(server.database.read, testId)
    const roles = Object.entries(rolesOfPlan(family, null)).filter(
      ([role, r]) => role !== '*' && role !== 't' && r.kind !== 'any',
    )
    expect(channels.map(c => c.role)).toEqual(['t', ...roles.map(([role]) => role)])
    const page = await testPage(server.database, testId)
    expect(page).toMatchObject({ view: null, runs: [], test: { plan: null } })
  })

  it('a rope’s own file comes to a result, is not called ready, and waits for an uncertainty', async () => {
    const { articleId, testId } = await found('pull')
    await writeRows(server.database, BY, 'limit', {
      campaignId,
      creates: [
        {
          articleId,
          quantity: 'peakForce',
          name: 'Holds',
          comparator: 'atLeast',
          entered: { value: 8, unit: 'kN' },
        },
      ],
      changes: [],
      removes: [],
    })
    const force = (i: number) => (i < 90 ? 0.1 * i : 0.02)
    const rows = Array.from({ length: 100 }, (_, i) => `${(i / 10).toFixed(1)};${force(i).toFixed(2)}`)
    const { runId } = await importBytes(server, testId, utf8(['Zeit [s];Kraft [kN]', ...rows].join('\n')), {
      end: 'article broke',
    })
    expect(runId).not.toBeNull()
    const { id, output } = await reduceAndKeep(server, testId)
    expect(output.results['peakForce']!.value).toBeCloseTo(8900, 6)
    const [verdict] = await verdictsFor(server.database.read, id, 'valid', 'none')
    expect(verdict).toMatchObject({ verdict: 'undecided' })
    const { events } = (await testPage(server.database, testId)).runs[0]!
    expect(events.map(e => e.kind)).toContain('readiness not recorded')
  })
})

describe('columns that could be the same channel', () => {
  const preview = async (family: string, text: string) => {
    const { testId } = await found(family)
    return previewFile(utf8(text), await plannedChannels(server.database.read, testId))
  }
  it('are asked about, never taken by their order', async () => {
    const { guess, open } = await preview('pull', 't (s),LC1 (kN),LC2 (kN),Stroke (mm)\n0,1,2,3\n1,2,3,4\n2,3,4,5\n')
    expect(open).toEqual({ force: ['LC1 (kN)', 'LC2 (kN)'] })
    expect(guess).toMatchObject({ t: { column: 't (s)' }, displacement: { column: 'Stroke (mm)' } })
    expect(guess['force']).toBeUndefined()
  })

  it('are not asked about where one says its name, or is alone with its unit; why is said', async () => {
    const named = await preview('pull', 'Time (s),Ref (kN),Force (kN)\n0,1,2\n1,2,3\n2,3,4\n')
    expect(named).toMatchObject({ open: {}, guess: { force: { column: 'Force (kN)' } }, sure: { force: 'name' } })
    const alone = await preview('pull', 'Time (s),LC (kN)\n0,1\n1,2\n2,3\n')
    expect(alone).toMatchObject({ open: {}, guess: { force: { column: 'LC (kN)' } }, sure: { force: 'unit' } })
  })

  it('go to what a reduction cannot do without, before what it may read beside', () => {
    const planned = [
      { role: 't', label: 'Time', kind: 'time' as const, sensorId: null },
      { role: 'acceleration', label: 'Acceleration', kind: 'acceleration' as const, sensorId: null },
      {
        role: 'input',
        label: 'Floor',
        kind: 'acceleration' as const,
        sensorId: null,
        optional: true,
        aliases: ['floor', 'sled'],
      },
    ]
    const guessed = (text: string) => previewFile(utf8(text), planned).guess
    expect(guessed('Time [s],Floor [g]\n0,0\n0.1,9\n0.2,1\n')).toMatchObject({ acceleration: { column: 'Floor [g]' } })
    expect(guessed('Time [s],Floor [g],Seat [g]\n0,0,0\n0.1,9,7\n0.2,1,2\n')).toMatchObject({
      input: { column: 'Floor [g]' },
      acceleration: { column: 'Seat [g]' },
    })
  })
})

describe('the sensor behind a channel', () => {
  it('is named after the import: its results have an uncertainty from then on', async () => {
    const { testId } = await found('pull')
    const rows = Array.from({ length: 60 }, (_, i) => `${i / 10},${i < 50 ? i / 10 : 0}`)
    await importBytes(server, testId, utf8(['Time [s],Force [kN]', ...rows].join('\n')), { end: 'article broke' })
    expect((await reduceAndKeep(server, testId)).output.results['peakForce']!.u).toBeUndefined()
    const { ids } = await writeRows(server.database, BY, 'sensor', {
      campaignId: null,
      creates: [{ name: 'Cell 10 kN', kind: 'force', ...CELL }],
      changes: [],
      removes: [],
    })
    const { read } = server.database
    const before = await gaugesOf(read, testId)
    expect(before.channels).toMatchObject([{ role: 'force', sensorId: null, unit: 'N' }])
    expect(before.sensors).toEqual([{ id: ids[0], name: 'Cell 10 kN', unit: 'N' }])
    await nameGauge(server.database, BY, testId, { role: 'force', sensorId: ids[0]! })
    // One per cent of ten kilonewtons at the most, as a rectangle.
    const { u, k } = (await reduceAndKeep(server, testId)).output.results['peakForce']!
    expect(u! * k!).toBeGreaterThan(90)
    expect(u! * k!).toBeLessThan(200)
    expect((await gaugesOf(read, testId)).channels).toMatchObject([{ role: 'force', sensorId: ids[0] }])
    const name = (role: string, sensorId: number) => refused(nameGauge(server.database, BY, testId, { role, sensorId }))
    expect((await refused(gaugesOf(read, 999))).code).toBe('not-found')
    expect([(await name('moment', 1)).code, (await name('force', 999)).code]).toEqual(['unknown-channel', 'not-found'])
  })
})

describe('a file that belongs to no test yet', () => {
  it('is shown as it is understood, with its curves; nothing is kept of it', async () => {
    const rows = Array.from({ length: 1000 }, (_, i) => `${i};${i === 500 ? '99,5' : '1,5'};`)
    const { preview } = await previewHead(server as never, null, {
      file: 'x.csv',
      bytes: utf8(['t [s];F [kN];leer', ...rows].join('\n') + '\n'),
      said: {},
    })
    expect(preview).toMatchObject({ planned: [], guess: {}, rowsSeen: 1000, delimiter: ';' })
    // A peak of one row of a thousand is not thinned away.
    expect(Math.max(...preview!.curves['F [kN]']!.map(v => v ?? 0))).toBe(99.5)
    expect(preview!.curves['F [kN]']!.length).toBeLessThanOrEqual(120)
    expect(existsSync('originals')).toBe(false)
    const damaged = previewHead(server as never, null, { file: 'x.csv', bytes: new Uint8Array(0), said: {} })
    expect(await refused(damaged)).toMatchObject({ code: 'empty-file', place: { file: 'x.csv' } })
  })

  it('is not drawn where its numbers may be two: that is asked first', () => {
    const open = previewFile(utf8('t;F\n0;5,000\n1;6,000\n2;7,000\n'), [])
    expect(open).toMatchObject({ numbers: { open: { text: '5,000' } }, rowsSeen: 0, curves: {} })
    expect(previewFile(utf8('t;F\n0;5,000\n1;6,000\n'), [], {}, { numbers: 'comma' }).curves['F']).toEqual([5, 6])
  })

  it('with gaps, with blanks between columns, or of words alone', () => {
    const gaps = previewFile(utf8('t,F\n0,1\n1,\n2,3\n3,4\n'), [])
    expect(gaps.curves['F']).toEqual([1, null, 3, 4])
    const blanks = previewFile(utf8('time  load\n 0    1.5\n 1    2.5\n 2    3.5\n'), [])
    expect(blanks.curves['load']).toEqual([1.5, 2.5, 3.5])
  })
})
