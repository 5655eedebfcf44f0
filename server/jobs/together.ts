import {
  alignClocks,
  findParting,
  formatNumber,
  formatQuantity,
  movesAgainst,
  kindOfSi,
  nameAlone,
  resample,
  type HealthFlag,
  type UnitPreference,
} from '@hypomet/core'
import * as z from 'zod'
import {
  channelsOfRecords,
  clockOffsetOf,
  pairsOfRecord,
  setHealth,
  type ChannelRow as Channel,
} from '../db/records/channels'
import { recordsTogether } from '../db/records/clocks'
import { channelsOf, preferenceOfTest } from '../db/records/records'
import { clockOf, isStrain, samplesOf, stripOf } from '../db/records/samples'
import type { JobContext } from './context'

export const pairsPayload = z.object({ datasetId: z.number().int() })

/** Flags the channels of pairs that part, and takes the flags of those that no longer do. */
export async function lookAtPairs(
  { db }: JobContext,
  { datasetId }: z.output<typeof pairsPayload>,
): Promise<{ parted: number }> {
  const together = await recordsTogether(db, datasetId)
  const main = together[0]!.id
  const rows = await channelsOfRecords(
    db,
    together.map(d => d.id),
  )
  const pairs = await pairsOfRecord(db, main)
  const flags = new Map<number, HealthFlag[]>()
  const prefer = await preferenceOfTest(db, together[0]!.testId)
  let parted = 0
  // What the test is guided by is the first of its channels.
  const guide = rows.find(c => c.used && c.role !== 't' && c.datasetId === main)
  for (const pair of pairs) {
    const [a, b] = [pair.a, pair.b].map(id => rows.find(c => c.id === id)!) as [Channel, Channel]
    const t = await samplesOf(db, await clockOf(db, a.datasetId))
    const y = await samplesOf(db, b)
    const other =
      a.datasetId === b.datasetId ? y : resample(await samplesOf(db, await clockOf(db, b.datasetId)), y, t, 'linear')
    const own = await samplesOf(db, a)
    const found = findParting(
      t,
      own,
      other,
      { a: pair.tolerance, b: 0 },
      guide && guide.datasetId === a.datasetId ? { guide: await samplesOf(db, guide) } : {},
    )
    if (!found) continue
    parted++
    const isTurned = movesAgainst(own, other)
    const at =
      found.guide === null || guide === a || guide === b
        ? ''
        : ` at ${nameAlone(guide!.name || guide!.role)} ${written(guide!, found.guide, 3, prefer)}`
    for (const [mine, twin] of [
      [a, b],
      [b, a],
    ] as const)
      flags.set(mine.id, [
        ...(flags.get(mine.id) ?? []),
        {
          code: isTurned ? 'swapped-sign' : 'parted',
          message: isTurned
            ? `Falls where “${nameAlone(twin.name || twin.role)}” rises: one of the two has its sign turned.`
            : `Disagrees with the redundant channel “${nameAlone(twin.name || twin.role)}” by ` +
              `${written(a, Math.abs(found.difference), 2, prefer)} where ` +
              `${written(a, pair.tolerance, 2, prefer)} is allowed${at}.`,
          index: found.index,
          at: found.time,
          twin: twin.id,
        },
      ])
  }
  await db.transaction(async tx => {
    for (const c of rows) {
      const others = (c.health ?? []).filter(f => f.twin === undefined)
      const mine = flags.get(c.id) ?? []
      if (mine.length > 0 || others.length !== (c.health ?? []).length) await setHealth(tx, c.id, [...others, ...mine])
    }
  })
  return { parted }
}

function written(c: Channel, v: number, digits: number, prefer: UnitPreference): string {
  const kind = isStrain(c) ? 'strain' : kindOfSi(c.unit)
  return kind ? formatQuantity(v, kind, { digits, prefer }) : `${formatNumber(v, digits)} ${c.unit}`.trim()
}

export const alignPayload = z.object({
  datasetId: z.number().int(),
  a: z.number().int(),
  b: z.number().int(),
  most: z.number().positive().max(86_400),
})

/**
 * How a record's clock must be set so that one of its channels agrees with one of the main record, and what both look
 * like then.
 */
export async function align({ db }: JobContext, p: z.output<typeof alignPayload>) {
  const [a, b] = (await channelsOf(db, p.datasetId, [p.a, p.b])) as [Channel, Channel]
  const before = await clockOffsetOf(db, b.datasetId)
  const read = async (c: Channel) => ({
    t: await samplesOf(db, await clockOf(db, c.datasetId)),
    y: await samplesOf(db, c),
  })
  const [one, other] = [await read(a), await read(b)]
  const { offset, ...found } = alignClocks(one, other, p.most)
  const moved = other.t.map(v => v + offset)
  const range = { from: Math.max(one.t[0]!, moved[0]!), to: Math.min(one.t.at(-1)!, moved.at(-1)!) }
  return {
    ...found,
    offset: before + offset,
    moved: offset,
    ...range,
    first: stripOf(one.t, one.y, 800, range),
    second: stripOf(moved, other.y, 800, range),
  }
}
