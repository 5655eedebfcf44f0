import { KINDS, parseSettings, plain, quantity, type Kind, type SensorSpecification } from '@hypomet/core'
import { asc, eq } from 'drizzle-orm'
import * as z from 'zod'
import { record } from './audit'
import type { Database, Db } from './client'
import { channel, sensor } from './schema'

/** A sensor's data sheet as it is entered, for what it measures; parsed to SI. */
export const sensorSpecification = (kind: Kind) => {
  const own = (title: string) => quantity(kind, { title, min: 0 })
  const share = (title: string) => plain({ title, min: 0, max: 1 }).optional()
  return z.object({
    fullScale: quantity(kind, { title: 'Full scale', positive: true }),
    certificate: z.object({ U: own('Calibration U'), k: plain({ title: 'k', positive: true }).default(2) }).optional(),
    linearity: share('Linearity'),
    hysteresis: share('Hysteresis'),
    repeatability: share('Repeatability'),
    resolution: own('Resolution').optional(),
  })
}

export interface NewSensor {
  name: string
  kind: string
  specification: Record<string, unknown>
  calibrationDue: string | null
}

export const isKind = (kind: string): kind is Kind => kind in KINDS

export const readSpecification = (s: { kind: string; specification: unknown }): SensorSpecification =>
  parseSettings(sensorSpecification(s.kind as Kind), s.specification, 'specification')

export function createSensor(database: Database, by: string, input: NewSensor) {
  readSpecification(input)
  return database.write(async db => {
    const [made] = await db.insert(sensor).values({ ...input, createdAt: new Date().toISOString() }).returning()
    await record(db, { who: by, what: 'create', entity: 'sensor', entityId: made!.id, after: made })
    return made!
  })
}

/** Full scale of the sensors behind a dataset's channels, SI, by role. */
export async function fullScales(db: Db, datasetId: number): Promise<Record<string, number>> {
  const rows = await db.select({ role: channel.role, kind: sensor.kind, specification: sensor.specification }).from(channel).innerJoin(sensor, eq(channel.sensorId, sensor.id)).where(eq(channel.datasetId, datasetId))
  return Object.fromEntries(rows.map(r => [r.role, readSpecification(r).fullScale]))
}

/** All sensors, each with its specification in SI. */
export async function listSensors(db: Db) {
  return (await db.select().from(sensor).orderBy(asc(sensor.id))).map(s => ({ ...s, si: readSpecification(s) }))
}
