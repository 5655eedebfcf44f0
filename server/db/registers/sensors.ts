import { sensorRegister } from '@hypomet/core'
import { asc, eq } from 'drizzle-orm'
import { channel, dataset, sensor, test } from '../schema'
import { overRangesOf, plannedWith } from './inventory'
import { storedRows, type RegisterRepository } from './repository'

const COLUMNS = ['name', 'kind', 'serial', 'calibratedOn', 'calibrationDue', 'place', 'state', 'note']

/** Data-sheet items lie together, as entered. */
export const sensors: RegisterRepository = {
  register: sensorRegister,
  table: sensor,
  campaignOf: () => Promise.resolve(null),
  list: async db => storedRows(await db.select().from(sensor).orderBy(asc(sensor.id))),
  columns: row => {
    const entries = Object.entries(row)
    return {
      ...Object.fromEntries(entries.filter(([k]) => COLUMNS.includes(k))),
      specification: Object.fromEntries(entries.filter(([k, v]) => !COLUMNS.includes(k) && v !== null && v !== '')),
    }
  },
  row: stored => ({
    ...Object.fromEntries(sensorRegister.fields.map(f => [f.key, null])),
    ...(stored['specification'] as object),
    ...Object.fromEntries(COLUMNS.map(k => [k, stored[k]])),
  }),
  async extras(db, rows) {
    const [planned, beyond] = [await plannedWith(db), await overRangesOf(db)]
    return Object.fromEntries(
      rows.map(r => [r.id, { installed: planned[r.id] ?? [], overRanged: beyond[r.id] ?? null }]),
    )
  },
  async usedBy(db, id) {
    const read = await db
      .selectDistinct({ title: test.title })
      .from(channel)
      .innerJoin(dataset, eq(dataset.id, channel.datasetId))
      .innerJoin(test, eq(test.id, dataset.testId))
      .where(eq(channel.sensorId, id))
    const planned = (await plannedWith(db))[id] ?? []
    return [
      ...read.map(t => `readings of “${t.title}” are from it (mark it as retired instead)`),
      ...planned.map(p => `it is planned for “${p.title}”`),
    ]
  },
}
