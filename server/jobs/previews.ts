import { HypometError, isHypometError, type Dialect } from '@hypomet/core'
import { formatOf } from '@hypomet/core/formats/columns'
import {
  numbersOfTest,
  plannedChannels,
  previewFile,
  previewOf,
  rememberedColumns,
  sameBytes,
} from '../db/records/datasets'
import type { Database, Db } from '../db/connection/client'
import type { Originals } from '../db/connection/originals'
import { headText } from '../ingest/headBytes'
import type { FileReading } from '../ingest/reading'
import { textHead } from '../ingest/textBlocks'
import type { JobRunner } from './runner'

const HEAD = 256 * 1024
const MOST_BYTES = 16 * 1024 ** 3

interface Services {
  database: Database
  originals: Originals
  jobs: JobRunner
}

/** What a test says of a file's columns; without one nothing is planned, and nobody has imported before. */
async function saidBy(read: Db, testId: number | null) {
  return {
    planned: testId === null ? [] : await plannedChannels(read, testId),
    remembered: testId === null ? {} : await rememberedColumns(read, testId),
    usual: testId === null ? undefined : await numbersOfTest(read, testId),
  }
}

/**
 * What a file's first bytes say of it; nothing is kept. Null where the whole of it is needed to tell.
 *
 * @throws HypometError with the file's name
 */
export async function previewHead(
  { database }: Services,
  testId: number | null,
  { file, bytes, said }: { file: string; bytes: Uint8Array; said: Dialect },
) {
  try {
    if (formatOf(bytes)) return { preview: null }
    const { planned, remembered, usual } = await saidBy(database.read, testId)
    return { preview: previewFile(headText(bytes), planned, remembered, said, usual) }
  } catch (e) {
    throw isHypometError(e) ? e.at({ file }) : e
  }
}

/** What a kept file is understood as, with what a person says of it. */
export async function previewKept(
  { database, originals, jobs }: Services,
  testId: number | null,
  sha256: string,
  { sheet, ...said }: FileReading,
) {
  const { planned, remembered, usual } = await saidBy(database.read, testId)
  const { headerRow } = said
  const columns = await jobs.call('preview', { sha256, sheet, headerRow, numbers: said.numbers ?? usual })
  return columns
    ? previewOf(columns, planned, remembered)
    : previewFile(headText(await textHead(originals.path(sha256), HEAD)), planned, remembered, said, usual)
}

/**
 * Keeps a file as it came, and says what it looks like and where the same bytes have been imported before.
 *
 * @throws HypometError `empty-file`, and what `previewKept` refuses, with the file's name
 */
export async function keepFile(
  services: Services,
  testId: number | null,
  { file, stream }: { file: string; stream: AsyncIterable<Buffer> },
) {
  const { database, originals } = services
  try {
    // A test that there is not is said before anything is sent.
    if (testId !== null) await plannedChannels(database.read, testId)
    const { sha256, size } = await originals.keepStream(stream, MOST_BYTES)
    if (size === 0) throw new HypometError('empty-file', 'The file holds no line.')
    const preview = await previewKept(services, testId, sha256, {})
    return { fileName: file, size, sha256, preview, known: await sameBytes(database.read, sha256) }
  } catch (e) {
    throw isHypometError(e) ? e.at({ file }) : e
  }
}
