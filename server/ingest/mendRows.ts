import { clockPieces, mendedClock } from '@hypomet/core'
import { channelsOfRecords, replaceSamples } from '../db/records/channels'
import type { Connection, Db } from '../db/connection/client'
import { clockOf, samplesOf } from '../db/records/samples'
import { mendedNotes } from './fileColumns'
import type { FileReading } from './reading'

type Warnings = { code: string; message: string }[]

/**
 * Puts the clock of a record just read right, as a person said, and the rows of every channel with it. Its file stays
 * as it is: read again with other words, it gives other rows.
 *
 * @returns  rows that the record has then; null where nothing was to be done
 */
export async function mendRows(
  db: Connection,
  datasetId: number,
  reading: FileReading,
): Promise<{ rows: number | null; warnings: Warnings }> {
  const t = await asStored(db, await clockOf(db, datasetId))
  const mended = reading.repeats || reading.jumps ? mendedClock(t, reading) : null
  if (!mended) return { rows: null, warnings: reading.jumps ? [] : leapOf(t) }
  const { from, to } = mended
  const channels = await channelsOfRecords(db, [datasetId])
  await db.transaction(async tx => {
    for (const c of channels) {
      const y = c.role === 't' ? mended.t : picked(await asStored(tx, c), from, c.labels ? from.map(i => i + 1) : to)
      await replaceSamples(tx, c.id, y)
    }
  })
  return { rows: mended.t.length, warnings: mendedNotes(mended, reading) }
}

const asStored = (db: Db, c: Awaited<ReturnType<typeof clockOf>>) => samplesOf(db, { ...c, conversion: null })

/** Rows by where they come from; of several their mean, gaps aside. */
function picked(y: Float64Array, from: Uint32Array, to: Uint32Array): Float64Array {
  return Float64Array.from(from, (first, k) => {
    if (to[k] === first + 1) return y[first]!
    let [sum, n] = [0, 0]
    for (let i = first; i < to[k]!; i++)
      if (!Number.isNaN(y[i]!)) {
        sum += y[i]!
        n++
      }
    return n > 0 ? sum / n : NaN
  })
}

function leapOf(t: Float64Array): Warnings {
  const [first, second] = clockPieces(t)
  if (!second) return []
  const row = first!.to
  return [
    {
      code: 'clock-leap',
      message: `Time leaps at data row ${row + 1}, from ${t[row - 1]} to ${t[row]}: one piece of it can be kept.`,
    },
  ]
}
