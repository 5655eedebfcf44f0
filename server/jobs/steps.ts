import { HypometError, lineOfSteps, type StepLine } from '@hypomet/core'
import * as z from 'zod'
import { channelsOfRecords } from '../db/records/channels'
import { recordsTogether } from '../db/records/clocks'
import { clockOf, samplesOf } from '../db/records/samples'
import type { JobContext } from './context'

export const stepsPayload = z.object({
  datasetId: z.number().int(),
  /** s */
  steps: z
    .array(z.object({ from: z.number(), to: z.number() }))
    .min(1)
    .max(500),
  /** Channel that the others are set against; null for none. */
  guide: z.number().int().nullable(),
  /** s; what was read over it is taken off. Null for means as they were read. */
  zero: z.object({ from: z.number(), to: z.number() }).nullable().default(null),
})

export interface StepTable {
  steps: { from: number; to: number }[]
  guide: number | null
  zero: { from: number; to: number } | null
  /** SI; with a zero only those that have none of their own to take off stand as read. */
  rows: ({ id: number; means: (number | null)[]; isAsRead: boolean } & StepLine)[]
}

/** What has no zero to take off: a temperature stands as it is read. */
const isAbsolute = ({ unit }: { unit: string }): boolean => unit === 'K'

/** Means of every channel of a record, and of those that join it, over its steps, and how they go with the guide. */
export async function tableSteps(
  { db, progress, check, meansOfSteps }: JobContext,
  p: z.output<typeof stepsPayload>,
): Promise<StepTable> {
  const together = await recordsTogether(db, p.datasetId)
  const all = await channelsOfRecords(
    db,
    together.map(d => d.id),
  )
  const means = new Map<number, number[]>()
  const asRead = new Set<number>()
  const wanted = all.filter(c => c.role !== 't')
  const byId = new Map(wanted.map(c => [c.id, c]))
  for (const d of together) {
    const t = await samplesOf(db, await clockOf(db, d.id))
    const spans = [...(p.zero ? [p.zero] : []), ...p.steps].map(s => ({
      from: firstAt(t, s.from),
      to: firstAt(t, s.to + 1e-9),
    }))
    const own = wanted.filter(c => c.datasetId === d.id).map(({ id, conversion }) => ({ id, conversion }))
    for await (const found of meansOfSteps(own, spans, d.rows)) {
      check()
      for (const f of found) {
        const [zero, ...steps] = p.zero ? f.means : [NaN, ...f.means]
        const isZeroed = p.zero !== null && !Number.isNaN(zero) && !isAbsolute(byId.get(f.id)!)
        if (!isZeroed) asRead.add(f.id)
        means.set(f.id, isZeroed ? steps.map(v => v - zero!) : steps)
      }
      progress(means.size / wanted.length, `${means.size} of ${wanted.length} channels`)
    }
  }
  const guide = p.guide === null ? null : means.get(p.guide)
  if (guide === undefined)
    throw new HypometError('not-found', 'The guide is no channel of this record.', { path: 'guide' })
  return {
    steps: p.steps,
    guide: p.guide,
    zero: p.zero,
    rows: wanted.map(({ id }) => ({
      id,
      means: means.get(id)!.map(v => (Number.isNaN(v) ? null : v)),
      isAsRead: asRead.has(id),
      ...(guide === null ? { slope: null, nonlinearity: null } : lineOfSteps(means.get(id)!, guide)),
    })),
  }
}

/** Number of the first sample that is not before a time. */
function firstAt(t: Float64Array, time: number): number {
  let [low, high] = [0, t.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (t[middle]! < time - 1e-9) low = middle + 1
    else high = middle
  }
  return low
}
