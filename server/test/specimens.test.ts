import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import * as demo from '../../demo/specimens'
import { sensors } from '../../demo/scenario'
import { createArticle, createCampaign } from '../db/campaigns'
import { packRecord } from '../db/packedRecord'
import { twinsOf } from '../db/reductions'
import { storedRecord } from '../db/onMainClock'
import { channel, dataset } from '../db/schema'
import { writeRows } from '../db/registers/book'
import { specimensOf } from '../db/specimens'
import { createTest } from '../db/tests'
import { BY, demoFile, importBytes, makeReady, reduceAndKeep, reduceLikeTwin, refused, type TestServer } from './campaign'
import { temporaryDatabase } from './database'

let server: TestServer
let sensorIds: Record<string, number>
let campaignId: number
beforeEach(async () => {
  server = await temporaryDatabase()
  campaignId = (await createCampaign(server.database, BY, { title: 'Strops', purpose: '', due: null, budget: null, currency: 'EUR', system: 'metric', rule: 'guarded', convention: 'margin-of-safety' })).id
  const rows = Object.values(sensors).map(s => { const { calibratedDaysAgo: _, ...row } = s as typeof s & { calibratedDaysAgo?: number }; return row })
  const { ids } = await writeRows(server.database, BY, 'sensor', { campaignId, creates: rows, changes: [], removes: [] })
  sensorIds = Object.fromEntries(Object.keys(sensors).map((key, i) => [key, ids[i]!]))
})
afterEach(() => server.close())

/** Tests of the demo, ready to be run, all of one article. */
async function ready(family: string, titles: string[]): Promise<number[]> {
  const made = await createArticle(server.database, BY, campaignId, { name: 'Article', family, note: '', features: [], revision: { label: 'A', changed: '', why: '', mass: null, parentId: null, properties: {}, facts: [], constants: {} } })
  const ids: number[] = []
  for (const title of titles) {
    const { plan } = demo.specimens.find(s => s.title === title)!
    const { id } = await createTest(server.database, BY, made.revision.id, { title, plan: { ...plan, channels: plan.channels.map(({ sensor, ...c }) => ({ ...c, sensorId: sensorIds[sensor]! })) } })
    await makeReady(server.database, id)
    ids.push(id)
  }
  return ids
}
const fileOf = (title: string) => demoFile(demo.specimens.find(s => s.title === title)!.file)

describe('specimens of one article', () => {
  it('share settings, but each keeps its own gauge, its windows and its call-outs', async () => {
    const titles = ['New strop 1', 'New strop 3, cell at its end', 'Worn strop 4, called out']
    const [first, clipped, called] = (await ready('pull', titles)) as [number, number, number]
    for (const [i, id] of [first, clipped, called].entries()) {
      await importBytes(server, id, fileOf(titles[i]!), { end: 'article broke' })
      await reduceAndKeep(server, id)
    }
    const { settings } = await reduceAndKeep(server, first, { referenceStrength: 38_000, gaugeFullScale: 60_000, gaugeAccuracy: 0.001, zeroStart: [0, 5] })
    const { database } = server
    expect((await twinsOf(database.read, first)).map(t => t.id)).toEqual([clipped, called])
    for (const id of [clipped, called]) await reduceLikeTwin(server, id, settings)
    const [own, atEnd, shouted] = (await specimensOf(database.read, first)).map(s => s.results)
    expect(own!['peakForce']!.bound).toBe('exact')
    // Its cell ends at 40 kN, whatever that of the first: still a lower bound, over the new reference.
    expect(atEnd!['retained']).toMatchObject({ bound: 'atLeast' })
    expect(atEnd!['retained']!.value).toBeCloseTo(atEnd!['peakForce']!.value! / 38_000, 9)
    expect(shouted!['peakForce']!.bound).toEqual({ interval: [27_000, 29_000] })
    expect((shouted!['retained']!.bound as { interval: number[] }).interval[0]).toBeCloseTo(27 / 38, 9)
  })
})

describe('rows with words and without a clock', () => {
  it('are kept with what their numbers stand for, reduced by it, and sent whole to a browser', async () => {
    const title = 'Bench: stock and both runners'
    const [id] = (await ready('flow', [title])) as [number]
    const { datasetId } = await importBytes(server, id, fileOf(title))
    const { read } = server.database
    const [config] = await read.select().from(channel).where(eq(channel.role, 'config'))
    expect(config!.labels).toEqual(['Stock', 'Wide bowl', 'Filled turn'])
    const { output } = await reduceAndKeep(server, id)
    expect(output.tables['configs']!.columns['config']).toEqual(['Stock', 'Wide bowl', 'Filled turn'])
    expect(output.results['meanFlow']!.value).toBeCloseTo(output.tables['configs']!.columns['meanFlow']![2] as number, 12)
    const packed = packRecord(await storedRecord(read, datasetId, 'A'), {})
    const length = packed.readUInt32LE(0)
    const head = JSON.parse(packed.subarray(4, 4 + length).toString()) as { rows: number; roles: string[]; hasClock: boolean }
    expect([head.rows, head.hasClock]).toEqual([18, false])
    const lift = 8 * Math.ceil((4 + length) / 8) + 8 * head.rows * head.roles.indexOf('lift')
    expect([packed.readDoubleLE(lift + 8), packed.readDoubleLE(lift + 16)]).toEqual([0.002, 0.004])
  })

  it('that break off or hold no number are refused at their place, and nothing of them stays', async () => {
    const [id] = (await ready('flow', ['Bench: stock and wide bowl'])) as [number]
    const channels = { config: { column: 'Runner' }, lift: { column: 'Lift', unit: 'mm' }, flow: { column: 'Flow', unit: 'cfm' }, drop: { column: 'Drop', unit: 'inH2O' } }
    const give = (lines: string[]) => importBytes(server, id, new TextEncoder().encode(['Runner,Lift,Flow,Drop', ...lines].join('\n')), { channels })
    expect(await refused(give(['Stock,2,56,40', 'Stock,4,99', 'Stock,6,136,40']))).toMatchObject({ code: 'ragged-row', place: { row: 3 } })
    expect(await refused(give(['Stock,two,56,40', 'Stock,four,99,40']))).toMatchObject({ code: 'no-data', place: { path: 'channels.lift.column' } })
    expect(await server.database.read.select().from(dataset)).toEqual([])
  })
})
