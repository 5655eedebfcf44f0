import { numbersOfTest, plannedChannels, previewFile, previewOf, rememberedColumns } from '../db/records/datasets'
import type { Database } from '../db/connection/client'
import type { Originals } from '../db/connection/originals'
import { headText } from '../ingest/headBytes'
import type { FileReading } from '../ingest/reading'
import { textHead } from '../ingest/textBlocks'
import type { JobRunner } from './runner'

const HEAD = 256 * 1024

/** What a kept file is understood as, with what a person says of it. */
export async function previewKept(
  { database, originals, jobs }: { database: Database; originals: Originals; jobs: JobRunner },
  testId: number,
  sha256: string,
  { sheet, ...said }: FileReading,
) {
  const planned = await plannedChannels(database.read, testId)
  const remembered = await rememberedColumns(database.read, testId)
  const usual = await numbersOfTest(database.read, testId)
  const columns = await jobs.call('preview', { sha256, sheet, numbers: said.numbers ?? usual })
  return columns
    ? previewOf(columns, planned, remembered)
    : previewFile(headText(await textHead(originals.path(sha256), HEAD)), planned, remembered, said, usual)
}
