import { eq } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import * as demo from '../../demo/specimens'
import { sensors } from '../../demo/scenario'
import { createArticle, createCampaign } from '../db/campaigns/campaigns'
import { packRecord } from '../db/records/packedRecord'
import { twinsOf } from '../db/results/reductions'
import { storedRecord } from '../db/records/onMainClock'
import { channel, dataset } from '../db/schema'
import { writeRows } from '../db/registers/service'
import { specimensOf } from '../db/articles/specimens'
import { targetRecord } from '../db/records/targets'
import { createTest } from '../db/tests/tests'
import {
  BY,
  demoFile,
  importBytes,
  makeReady,
  reduceAndKeep,
  reduceLikeTwin,
  refused,
  type TestServer,
} from './campaign'
import { temporaryDatabase } from './database'

let server: TestServer
let sensorIds: Record<string, number>
let campaignId: number
beforeEach(async () => {
  server = await temporaryDatabase()
  campaignId = (
    await createCampaign(server.database, BY, {
      title: 'Strops',
      purpose: '',
      due: null,
      budget: null,
      currency: 'EUR',
      system: 'metric',
      rule: 'guarded',
      convention: 'margin-of-safety',
    })
  ).id
  const rows = Object.values(sensors).map(s => {
    const { calibratedDaysAgo: _, ...row } = s as typeof s & { calibratedDaysAgo?: number }
    return row
  })
  const { ids } = await writeRows(server.database, BY, 'sensor', {
    campaignId,
    creates: rows,
    changes: [],
    removes: [],
  })
  sensorIds = Object.fromEntries(Object.keys(sensors).map((key, i) => [key, ids[i]!]))
})
afterEach(() => server.close())

/** Tests of the demo, ready to be run, all of one article. */
async function ready(family: string, titles: string[]): Promise<number[]> {
  const made = await createArticle(server.database, BY, campaignId, {
    name: 'Article',
    family,
    note: '',
    features: [],
    revision: {
      label: 'A',
      changed: '',
      why: '',
      mass: null,
      parentId: null,
      properties: {},
      facts: [],
      constants: {},
    },
  })
  const ids: number[] = []
  for (const title of titles) {
    const { plan } = demo.specimens.find(s => s.title === title)!
    const { id } = await createTest(server.database, BY, made.revision.id, {
      title,
      plan: { ...plan, channels: plan.channels.map(({ sensor, ...c }) => ({ ...c, sensorId: sensorIds[sensor]! })) },
    })
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
    const { settings } = await reduceAndKeep(server, first, {
      referenceStrength: 38_000,
      gaugeFullScale: 60_000,
      gaugeAccuracy: 0.001,
      zeroStart: [0, 5],
    })
    const { database } = server
    expect((await twinsOf(database.read, first)).map(t => t.id)).toEqual([clipped, called])
    for (const id of [clipped, called]) await reduceLikeTwin(server, id, settings)
    const [own, atEnd, shouted] = (await specimensOf(database.read, first)).map(s => s.results)
    expect(own!['peakForce']!.bound).toBe('exact')
    // Its cell ends at 40 kN, whatever that of the first: still a lower bound, over the new reference.
    expect(atEnd!['retained']).toMatchObject({ bound: 'atLeast' })
    expect(atEnd!['retained']!.value).toBeCloseTo(atEnd!['peakForce']!.value! / 38_000, 9)
    // From the last call-out to the next, 5 kN apart, and a scale of 400 kN good for 1 % of that at either end.
    const U = (2 * 0.01 * 400_000) / Math.sqrt(3)
    const interval = (key: string) => (shouted![key]!.bound as { interval: [number, number] }).interval
    expect(interval('peakForce')[0]).toBeCloseTo(27_000 - U, 6)
    expect(interval('peakForce')[1]).toBeCloseTo(32_000 + U, 6)
    expect(interval('retained')[0]).toBeCloseTo((27_000 - U) / 38_000, 9)
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
    expect(output.results['meanFlow']!.value).toBeCloseTo(
      output.tables['configs']!.columns['meanFlow']![2] as number,
      12,
    )
    const packed = packRecord(await storedRecord(read, datasetId, 'A'), {})
    const length = packed.readUInt32LE(0)
    const head = JSON.parse(packed.subarray(4, 4 + length).toString()) as {
      rows: number
      roles: string[]
      hasClock: boolean
    }
    expect([head.rows, head.hasClock]).toEqual([18, false])
    const lift = 8 * Math.ceil((4 + length) / 8) + 8 * head.rows * head.roles.indexOf('lift')
    expect([packed.readDoubleLE(lift + 8), packed.readDoubleLE(lift + 16)]).toEqual([0.002, 0.004])
  })

  it('that break off or hold no number are refused at their place, and nothing of them stays', async () => {
    const [id] = (await ready('flow', ['Bench: stock and wide bowl'])) as [number]
    const channels = {
      config: { column: 'Runner' },
      lift: { column: 'Lift', unit: 'mm' },
      flow: { column: 'Flow', unit: 'cfm' },
      drop: { column: 'Drop', unit: 'inH2O' },
    }
    const give = (lines: string[]) =>
      importBytes(server, id, new TextEncoder().encode(['Runner,Lift,Flow,Drop', ...lines].join('\n')), { channels })
    expect(await refused(give(['Stock,2,56,40', 'Stock,4,99', 'Stock,6,136,40']))).toMatchObject({
      code: 'ragged-row',
      place: { row: 3 },
    })
    expect(await refused(give(['Stock,two,56,40', 'Stock,four,99,40']))).toMatchObject({
      code: 'no-data',
      place: { path: 'channels.lift.column' },
    })
    expect(await server.database.read.select().from(dataset)).toEqual([])
  })
})

describe('files of benches and laboratories', () => {
  /** Article, file and what it was made with: by the test's title, its result and how far it may be off. */
  /** As an axial force: what 8 mm off the axis adds to 362 kN on a radius of 450 mm, less what 4 kPa carry. */
  const SOUTHWELL = 362_000 * (1 + (2 * 8) / 450) - Math.PI * 0.45 ** 2 * 4000
  const TRUTHS: [family: string, title: string, result: string, truth: number, within: number][] = [
    ['buckling', 'Pressed until it buckles', 'peakForce', 341_000, 0.01],
    ['buckling', 'Pressed until it buckles', 'southwellForce', SOUTHWELL, 0.001],
    ['buckling', 'Pressed until it buckles', 'waveNumber', 6, 0],
    ['spin', 'Set-points up to 90 %', 'maxThrust', 104 * 0.81, 0.02],
    ['thermal', 'Full power, closed housing', 'timeConstant', 470, 0.01],
    ['thermal', 'Full power, lid vented: ten minutes', 'steadyTemperature', 295.15 + 55, 0.005],
    ['torque', 'Shaft S4 to break', 'ultimateTorque', 2204, 0.01],
    ['vibration', 'Survey after the shake', 'firstFrequency', 29.7, 0.01],
    ['bar', 'Frame 1', 'meanRate', 1546, 0.05],
    ['transducer', 'Element, bare', 'C0', 2.4e-9, 0.005],
    ['transducer', 'Element, bare', 'coupling', 0.5, 0.005],
    ['transducer', 'Beam at 40 kHz', 'maxSidelobe', -17.6, 0.03],
    ['coupon', 'Six in tension', 'modulusMean', 57.4e9, 0.03],
    ['coupon', 'Six in bearing', 'outliers', 1, 0],
    ['coupon', 'Five in shear', 'n', 5, 0],
  ]
  const titles = [...new Set(TRUTHS.map(([family, title]) => `${family}:${title}`))]

  it.each(titles)('are understood by their columns and give back what they were made with: %s', async both => {
    const [family, title] = [both.slice(0, both.indexOf(':')), both.slice(both.indexOf(':') + 1)]
    const [id] = (await ready(family, [title])) as [number]
    await importBytes(server, id, fileOf(title), { end: demo.specimens.find(s => s.title === title)!.end })
    const { output } = await reduceAndKeep(server, id)
    for (const [, of, key, truth, within] of TRUTHS)
      if (of === title)
        expect(
          Math.abs(output.results[key]!.value! - truth),
          `${key} is ${output.results[key]!.value}`,
        ).toBeLessThanOrEqual(within * Math.abs(truth))
  })

  it('are compared with their like alone: a set in shear is none of tension', async () => {
    const all = ['Six in tension', 'Five in shear', 'Six in bearing']
    const ids = (await ready('coupon', all)) as [number, number, number]
    for (const [i, id] of ids.entries()) {
      await importBytes(server, id, fileOf(all[i]!))
      await reduceAndKeep(server, id)
    }
    expect((await specimensOf(server.database.read, ids[1])).map(s => s.title)).toEqual(['Five in shear'])
  })
})

describe('image targets', () => {
  it('come out of wide columns with the gauges of the record they join, on their own times', async () => {
    const [id] = (await ready('torque', ['Shaft S1 to break'])) as [number]
    const main = await importBytes(server, id, fileOf('Shaft S1 to break'))
    const frames = [0, 1, 2, 3].map(t =>
      [t, ...['F1', 'F2', 'F3', 'A'].flatMap((_, k) => [k * 100, (k % 2) * 50, t * k])].join(','),
    )
    const file = Buffer.from(
      [
        'Time [s],' + ['F1', 'F2', 'F3', 'A'].flatMap(n => ['x', 'y', 'z'].map(a => `${n} ${a} [mm]`)).join(','),
        ...frames,
      ].join('\n'),
    )
    await importBytes(server, id, file, { channels: { t: { column: 'Time [s]', unit: 's' } }, joins: main.datasetId })
    const { names, record, gauges } = await targetRecord(server.database.read, main.datasetId)
    expect(names).toEqual(['F1', 'F2', 'F3', 'A'])
    expect([...record.columns['A z']!]).toEqual([0, 0.003, 0.006, 0.009].map(v => expect.closeTo(v, 12) as number))
    expect(gauges.map(g => g.role)).toEqual(['torque', 'twist'])
    expect(record.columns['gauge:torque']).toHaveLength(4)
    const [other] = (await ready('torque', ['Shaft S2 to break'])) as [number]
    const alone = await importBytes(server, other, fileOf('Shaft S2 to break'))
    expect((await refused(targetRecord(server.database.read, alone.datasetId))).code).toBe('no-targets')
  })
})
