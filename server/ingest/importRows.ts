import { HypometError, readTable, siUnitOf, type ColumnMapping } from '@hypomet/core'
import type { BinaryFormat } from '@hypomet/core/formats/columns'
import type { Connection } from '../db/connection/client'
import { addChannel, writeSamples } from '../db/records/samples'
import { type Conversion } from '../db/records/conversion'
import { clockChannel, fileColumns, rowsChannel } from './fileColumns'
import type { TextImport } from './importText'
import { assertKept } from './reading'
import { textBlocks } from './textBlocks'

const MOST_BYTES = 64 * 1024 ** 2

/** A text that is read whole, blanks between columns as tabs. @throws HypometError `not-text`, `too-large` */
export async function wordsOf({ path, reading }: TextImport, format: BinaryFormat | null): Promise<Uint8Array> {
  if (format) throw new HypometError('not-text', 'Rows with words are read from text: save the sheet as CSV.')
  for await (const { bytes, length, isLast } of textBlocks(path, MOST_BYTES, { isBlank: reading?.delimiter === ' ' })) {
    if (!isLast) break
    return bytes.subarray(0, length)
  }
  throw new HypometError('too-large', 'Rows with words are read up to 64 MB.')
}

/** Reads rows that need no clock, or that hold words: read whole, words kept as numbers with what they stand for. */
export async function importRows(
  db: Connection,
  p: TextImport,
  format: BinaryFormat | null,
): Promise<{ rows: number; warnings: { code: string; message: string }[] }> {
  const bytes = await wordsOf(p, format)
  const plain: ColumnMapping[] = p.mappings.map(m => ({
    ...m,
    scale: 1,
    unit: m.unit && { ...m.unit, shift: 0, multiply: 1, divide: 1 },
  }))
  const raw = readTable(bytes, plain, p.reading)
  raw.lost.forEach(l => assertKept(l, p.reading ?? {}))
  const count = raw.rows.length
  const named = fileColumns(
    p.mappings.map(m => m.column),
    [],
    new Map(p.mappings.map((m, i) => [i, m.role])),
    p.mappings,
  )
  const symbols = Object.fromEntries(named.map(c => [c.role, c.symbol]))
  await db.transaction(async tx => {
    if (!raw.numbers['t'])
      await writeSamples(
        tx,
        await addChannel(tx, rowsChannel(p.datasetId)),
        Float64Array.from({ length: count }, (_, i) => i + 1),
      )
    for (const { role, column, unit, scale } of p.mappings) {
      if (!unit) {
        const labels = [...new Set(raw.text[role]!)]
        await writeSamples(
          tx,
          await addChannel(tx, {
            datasetId: p.datasetId,
            role,
            name: column,
            symbol: symbols[role]!,
            used: true,
            unit: '',
            labels,
          }),
          Float64Array.from(raw.text[role]!, w => labels.indexOf(w)),
        )
        continue
      }
      const { offset, table } = p.channels?.[role] ?? {}
      const conversion: Conversion = {
        ...(table ? { table } : {}),
        scale,
        ...(offset ? { offset } : {}),
        shift: unit.shift,
        multiply: unit.multiply,
        divide: unit.divide,
        ...(p.channels?.[role]?.unit ? { unit: p.channels[role].unit } : {}),
      }
      const made =
        role === 't'
          ? { ...clockChannel(p.datasetId), name: column }
          : {
              datasetId: p.datasetId,
              role,
              name: column,
              symbol: symbols[role]!,
              used: true,
              unit: siUnitOf(unit.dimension),
              sensorId: p.sensorOf[role] ?? null,
            }
      await writeSamples(tx, await addChannel(tx, { ...made, conversion }), raw.numbers[role]!)
    }
  })
  return { rows: count, warnings: raw.warnings }
}
