import {
  channelHealth,
  deriveChannel,
  HypometError,
  isHypometError,
  isLikeItsChannels,
  namesIn,
  parseExpression,
  symbolsOf,
  type Derived,
} from '@hypomet/core'
import * as z from 'zod'
import { audit } from '../db/connection/audit'
import type { Db } from '../db/connection/client'
import { channelsOfRecords, replaceSamples, setHealth, type ChannelRow } from '../db/records/channels'
import { recordsTogether } from '../db/records/clocks'
import { onMainClock } from '../db/records/onMainClock'
import { plannedDerived } from '../db/records/plannedDerived'
import { namesTogether } from '../db/records/symbols'
import type { Conversion } from '../db/records/conversion'
import { addChannel, clockOf, isStrain, samplesOf, stripOf, writeSamples } from '../db/records/samples'
import type { JobContext } from './context'

export const derivePayload = z.object({
  datasetId: z.number().int(),
  expression: z.string().trim().min(1),
  width: z.number().int().min(10).max(4000),
  from: z.number(),
  to: z.number(),
  keep: z.object({ name: z.string().trim().min(1).max(80), by: z.string() }).nullable(),
})
export type DerivePayload = z.output<typeof derivePayload>

/** A channel derived from others: drawn, and with `keep` stored beside them with the expression it came by. */
export async function derive({ db }: JobContext, p: DerivePayload) {
  const { main, rows, t } = await channelsTogether(db, p.datasetId)
  const { values, unit, isStrain } = await computed(db, p.expression, { main, rows, t })
  const { keep } = p
  const id =
    keep &&
    (await db.transaction(async tx => {
      if (rows.some(r => r.role === keep.name || r.name === keep.name))
        throw new HypometError('name-taken', `There is a channel “${keep.name}” already.`, { path: 'name' })
      const made = await addDerived(tx, main, { ...p, ...keep }, { values, unit, isStrain })
      await setHealth(tx, made, channelHealth(t, values))
      await audit(tx, {
        who: keep.by,
        what: 'derive',
        entity: 'channel',
        entityId: made,
        after: { name: keep.name, expression: p.expression },
      })
      return made
    }))
  return { id, unit, ...stripOf(t, values, p.width, p) }
}

/** Strains are kept in millionths, as those are that they are derived from. */
const MILLIONTHS: Conversion = { scale: 1, shift: 0, multiply: 1, divide: 1e6 }

async function addDerived(
  tx: Db,
  datasetId: number,
  { name, expression, role = name, used = false }: { name: string; expression: string; role?: string; used?: boolean },
  { values, unit, isStrain }: Computed,
): Promise<number> {
  const made = await addChannel(tx, {
    datasetId,
    role,
    name,
    symbol: symbolsOf([role])[0]!,
    used,
    unit,
    conversion: isStrain ? MILLIONTHS : null,
    expression,
  })
  await writeSamples(tx, made, asKept(values, isStrain))
  return made
}

const asKept = (values: Float64Array, isStrain: boolean): Float64Array =>
  isStrain ? values.map(v => v * MILLIONTHS.divide) : values

interface Computed extends Derived {
  isStrain: boolean
}

interface Together {
  main: number
  rows: ChannelRow[]
  /** The main record's clock. */
  t: Float64Array
}

async function channelsTogether(db: Db, datasetId: number): Promise<Together> {
  const together = await recordsTogether(db, datasetId)
  const main = together[0]!.id
  const rows = await channelsOfRecords(
    db,
    together.map(d => d.id),
  )
  return { main, rows, t: await samplesOf(db, await clockOf(db, main)) }
}

async function computed(db: Db, expression: string, { main, rows, t }: Together): Promise<Computed> {
  const named = namesTogether(rows)
  const derived = await deriveChannel(
    expression,
    t,
    Object.fromEntries([...named].map(([symbol, r]) => [symbol, r.unit])),
    symbol => onMainClock(db, named.get(symbol)!, main, t),
  )
  for (let i = 0; i < derived.values.length; i++) if (!Number.isFinite(derived.values[i]!)) derived.values[i] = NaN
  if (derived.values.every(Number.isNaN))
    throw new HypometError('data-range', 'This has no value anywhere in the record.', { path: 'expression' })
  const read = namesIn(parseExpression(expression)).flatMap(n => named.get(n) ?? [])
  return { ...derived, isStrain: read.length > 0 && read.every(isStrain) && isLikeItsChannels(expression) }
}

export const plannedPayload = z.object({ datasetId: z.number().int() })

/**
 * Channels that the plan derives become channels of a record that has what they are derived from, beside those that
 * were derived on the record itself. What the record brings by a column of its own stays as it was read.
 */
export async function derivePlanned({ db }: JobContext, { datasetId }: z.output<typeof plannedPayload>) {
  const { testId } = (await recordsTogether(db, datasetId))[0]!
  const made: number[] = []
  for (const { role, label, expression } of await plannedDerived(db, testId)) {
    const together = await channelsTogether(db, datasetId)
    if (together.rows.some(r => r.role === role)) continue
    try {
      const values = await computed(db, expression, together)
      made.push(
        await db.transaction(async tx => {
          const id = await addDerived(tx, together.main, { role, name: label, expression, used: true }, values)
          await setHealth(tx, id, channelHealth(together.t, values.values))
          return id
        }),
      )
    } catch (e) {
      // What it reads is in another record, or no number anywhere: the plan's page says what its expression needs.
      if (!isHypometError(e)) throw e
    }
  }
  return made
}

export const rederivePayload = z.object({ datasetId: z.number().int() })

/**
 * Derives a record's derived channels once more, each after those that it is derived from: a clock has been set anew.
 * Gives their numbers.
 */
export async function rederive({ db }: JobContext, { datasetId }: z.output<typeof rederivePayload>): Promise<number[]> {
  const together = await channelsTogether(db, datasetId)
  const derived = together.rows.filter(c => c.expression !== null)
  for (const c of derived) {
    const values = await computed(db, c.expression!, together).then(
      d => asKept(d.values, isStrain(c)),
      (e: unknown) => {
        // Two clocks may now have nothing in common: then there is no value, and the channel says so.
        if (e instanceof HypometError && e.code === 'data-range') return new Float64Array(together.t.length).fill(NaN)
        throw e
      },
    )
    await db.transaction(async tx => {
      await replaceSamples(tx, c.id, values)
      await setHealth(tx, c.id, channelHealth(together.t, values))
    })
  }
  return derived.map(c => c.id)
}
