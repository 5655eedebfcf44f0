import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { channelsOfRecords } from '../db/records/channels'
import type { NewImport } from '../db/records/datasets'
import { previewFile } from '../db/records/datasets'
import { recordPage } from '../db/records/records'
import { readDataset, readSamples } from '../db/records/samples'
import { targetRecord } from '../db/records/targets'
import { BY, importBytes, readyServer, refused, type TestServer } from './campaign'

const text = (lines: string[]) => new TextEncoder().encode(lines.join('\n') + '\n')

/** A camera's rows: three targets on a fixture that tilts by 1 mrad and one that goes down 2 mm beside, from 1 s on. */
const PICTURES = 30
const HOMES: Record<string, [number, number, number]> = {
  F1: [0, -100, 0],
  F2: [0, 100, 0],
  F3: [-80, 0, 0],
  tip: [900, 0, 0],
}
const seenAt = (name: string, i: number): string[] => {
  const [x, y, z] = HOMES[name]!
  const tilt = i >= 10 ? 1e-3 : 0
  const sunk = name === 'tip' && i >= 10 ? -2 : 0
  return [x, y, z + y * tilt + sunk].map(v => v.toFixed(4))
}
const TARGETS = [
  'Zeit [s];Target;X [mm];Y [mm];Z [mm]',
  ...Array.from({ length: PICTURES }, (_, i) => i).flatMap(i =>
    Object.keys(HOMES)
      // One was not seen in a picture.
      .filter(name => !(name === 'F3' && i === 20))
      .map(name => [(i / 10).toFixed(1), name, ...seenAt(name, i)].join(';')),
  ),
]

describe('rows of several', () => {
  let server: TestServer
  let testId: number
  beforeAll(async () => ({ server, testId } = await readyServer()))
  afterAll(() => server.close())

  const imported = async (lines: string[], change: Partial<NewImport>) => {
    const { datasetId } = await importBytes(server, testId, text(lines), change)
    const { columns } = await readDataset(server.database.read, datasetId)
    const [record] = (await recordPage(server.database.read, datasetId)).records
    return { datasetId, columns, warnings: record!.warnings.map(w => w.code) }
  }

  it('targets are proposed, become channels, and what they do is one more with the fixture taken off', async () => {
    expect(previewFile(text(TARGETS), []).tall).toEqual({ columns: ['Target'], proposed: 'Target' })
    const { datasetId, columns } = await imported(TARGETS, {
      channels: { t: { column: 'Zeit [s]', unit: 's' } },
      reading: { delimiter: ';', headerRow: 1, tall: 'Target' },
    })
    expect(columns['t']).toHaveLength(PICTURES)
    const { names, symbols, record } = await targetRecord(server.database.read, datasetId)
    expect(names).toEqual(['F1', 'F2', 'F3', 'tip'])
    expect(record.columns['tip z']![12]).toBeCloseTo(-0.002, 12)
    expect(record.columns['F3 x']![20]).toBeNaN()
    const place = (name: string) => symbols[name]!.join(', ')
    const expression = `moved(0.95 s, ${['tip', 'F1', 'F2', 'F3']
      .map(place)
      .join(', ')
      .replace(place('tip'), `${place('tip')}, 0, 0, -1`)})`
    const { id } = (await server.run('derive', {
      ...{ datasetId, width: 100, from: 0, to: 3, expression },
      keep: { name: 'tip sinks', by: BY },
    })) as { id: number }
    const sinks = await readSamples(server.database.read, id)
    expect(sinks[5]).toBeCloseTo(0, 9)
    expect(sinks[25]).toBeCloseTo(0.002, 7)
    // Two of the fixture's targets tell no turn.
    expect(sinks[20]).toBeNaN()
  })

  it('channels and their values: side by side, each by its own name; what repeats is said', async () => {
    const rows = [
      'stamp,channel,value',
      ...['load', 'way', 'load', 'way'].map((c, i) => `2026-11-24 10:00:0${Math.floor(i / 2)}.5,${c},${i}`),
      '2026-11-24 10:00:01.5,way,9',
    ]
    const { tall, columns: seen } = previewFile(text(rows), [])
    expect(tall!.proposed).toBe('channel')
    expect(seen[0]!.isStamps).toBe(true)
    const { datasetId, columns, warnings } = await imported(rows, {
      channels: { t: { column: 'stamp', unit: 's' }, load: { column: 'load', unit: 'kN' } },
      reading: { delimiter: ',', headerRow: 1, tall: 'channel' },
    })
    // From the full second of the first stamp, as every clock of stamps.
    expect([...columns['t']!]).toEqual([0.5, 1.5])
    expect([...columns['load']!]).toEqual([0, 2000])
    const way = (await channelsOfRecords(server.database.read, [datasetId])).find(c => c.name === 'way')!
    expect([...(await readSamples(server.database.read, way.id))]).toEqual([1, 3])
    expect(warnings).toContain('repeated-rows')
  })

  it('is refused with the place: no such column, no clock, and words for numbers', async () => {
    const said = { delimiter: ';', headerRow: 1 } as const
    const clock = { t: { column: 'Zeit [s]', unit: 's' } }
    const asked = (channels: NewImport['channels'], tall: string, lines = TARGETS) =>
      refused(importBytes(server, testId, text(lines), { channels, reading: { ...said, tall } }))
    expect(await asked(clock, 'Punkt')).toMatchObject({ code: 'missing-column', place: { path: 'reading.tall' } })
    expect(await asked({}, 'Target')).toMatchObject({ code: 'missing-channel', place: { path: 'channels.t' } })
    const midnight = ['Zeit [s];Target;X [mm]', '86399;a;1', '86399;b;2', '1;a;3', '1;b;4', '2;a;5']
    expect(await asked(clock, 'Target', midnight)).toMatchObject({ code: 'time-order', place: { row: 4 } })
    const lost = TARGETS.map((l, i) => (i > 0 && i % 7 === 0 ? l.replace(/[^;]*$/, 'lost') : l))
    expect(await asked(clock, 'Target', lost)).toMatchObject({ code: 'cells-lost', place: { column: 'Z [mm]' } })
  })
})
