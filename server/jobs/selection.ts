import { meanSd, welch } from '@hypomet/core'
import * as z from 'zod'
import { channelsOf } from '../db/records/records'
import { clockOf, samplesOf, spanOf } from '../db/records/samples'
import type { JobContext } from './context'

export const selectionPayload = z.object({
  datasetId: z.number().int(),
  channels: z.array(z.number().int()).max(64),
  from: z.number(),
  to: z.number(),
  spectrum: z.boolean(),
})
export type SelectionPayload = z.output<typeof selectionPayload>

export interface Selected {
  channel: number
  n: number
  mean: number | null
  sd: number | null
  min: number | null
  max: number | null
  /** One-sided density where it was asked for and the record allows it; else why not. */
  spectrum: { frequency: number[]; density: number[] } | { refused: string } | null
}

/** Statistics, and spectra where asked, of a stretch of time. */
export async function lookAtSelection({ db }: JobContext, p: SelectionPayload): Promise<Selected[]> {
  const clocks = new Map<number, { first: number; end: number; stamps: Float64Array }>()
  const clockFor = async (datasetId: number) => {
    const known = clocks.get(datasetId)
    if (known) return known
    const time = await clockOf(db, datasetId)
    const span = await spanOf(db, time, p)
    const made = { ...span, stamps: await samplesOf(db, time, span.first, span.end) }
    clocks.set(datasetId, made)
    return made
  }
  const found: Selected[] = []
  for (const c of await channelsOf(db, p.datasetId, p.channels)) {
    const { first, end, stamps } = await clockFor(c.datasetId)
    const inside = (i: number) => stamps[i]! >= p.from && stamps[i]! <= p.to
    const y = (await samplesOf(db, c, first, end)).filter((_, i) => inside(i))
    const numbers = y.filter(v => !Number.isNaN(v))
    const { mean, sd, n } = meanSd(numbers)
    const finite = (v: number) => (Number.isFinite(v) ? v : null)
    const [min, max] = numbers.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [Infinity, -Infinity])
    found.push({
      channel: c.id,
      n,
      mean: finite(mean),
      sd: finite(sd),
      min: finite(min!),
      max: finite(max!),
      spectrum: p.spectrum
        ? densityOf(
            stamps.filter((_, i) => inside(i)),
            y,
          )
        : null,
    })
  }
  return found
}

const SEGMENTS_WANTED = 8

function densityOf(t: Float64Array, y: Float64Array): Selected['spectrum'] {
  if (y.some(Number.isNaN)) return { refused: 'There are gaps in this stretch.' }
  const interval = (t.at(-1)! - t[0]!) / (t.length - 1)
  const longest = t.reduce((m, v, i) => (i > 0 ? Math.max(m, v - t[i - 1]!) : m), 0)
  if (!(longest < 1.2 * interval)) return { refused: 'The samples of this stretch are not evenly spaced.' }
  const nperseg = Math.min(8192, 2 ** Math.floor(Math.log2((2 * y.length) / SEGMENTS_WANTED)))
  if (!(nperseg >= 16)) return { refused: 'This stretch is too short for a spectrum.' }
  const { frequency, density } = welch(y, 1 / interval, nperseg)
  return { frequency: Array.from(frequency.subarray(1)), density: Array.from(density.subarray(1)) }
}
