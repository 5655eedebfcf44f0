import { isHypometError } from '@hypomet/core'
import { formatOf } from '@hypomet/core/formats/columns'
import { readColumns } from '@hypomet/core/formats/readColumns'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { previewFile } from '../db/records/datasets'
import { dataset } from '../db/schema'
import { headText } from '../ingest/headBytes'
import { importBytes, readyServer, type TestServer } from './campaign'
import { HOSTILE } from './hostile/index'

const HEAD = 256 * 1024
const ROLES = ['t', 'load', 'deflection'] as const
const UNITS = { t: 's', load: 'kN', deflection: 'mm' }

let server: TestServer
let testId: number
beforeAll(async () => ({ server, testId } = await readyServer()))
afterAll(() => server.close())

/** Rows that a file is read to, as a person would have it read who takes its first columns. */
async function rowsOf(bytes: Uint8Array): Promise<number> {
  const format = formatOf(bytes.subarray(0, 4096))
  if (format) return (await readColumns(bytes, format)).columns[0]!.values.length
  const { columns } = previewFile(headText(bytes.subarray(0, HEAD)), [])
  const channels = Object.fromEntries(
    ROLES.flatMap((role, i) => (columns[i] ? [[role, { column: columns[i].name, unit: UNITS[role] }]] : [])),
  )
  const { datasetId } = await importBytes(server, testId, bytes, { channels })
  const [kept] = await server.database.read.select().from(dataset).where(eq(dataset.id, datasetId))
  return kept!.rows
}

describe('a file that lies, breaks off or wants all of a machine', () => {
  it.each(HOSTILE.map(h => [h.name, h] as const))('%s', async (_, { make, rows }) => {
    const read = await rowsOf(make()).catch((e: unknown) => {
      if (!isHypometError(e)) throw e
      expect(e.message).toMatch(/^[^\n]{20,400}\.$/)
      return e.code
    })
    if (rows === undefined) expect(read).toEqual(expect.any(String))
    else expect(read).toBe(rows)
  })

  it('are a hundred and more, each of its own name', () => {
    expect(new Set(HOSTILE.map(h => h.name)).size).toBeGreaterThan(120)
  })
})
