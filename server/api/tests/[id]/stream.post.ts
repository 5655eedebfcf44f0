import * as z from 'zod'
import { numbersOfTest, plannedChannels, previewFile, rememberedColumns } from '../../../db/records/datasets'
import { streamSources } from '../../../environment'
import { assertAllowed, lookAtStream, streamWhere } from '../../../live/streamSetUp'

/** What a live stream says, with a first guess of which column is which channel. */
export default defineRoute({ body: z.object({ where: streamWhere }) }, async (event, { body }) => {
  const id = idOf(event)
  const { where } = body
  await assertAllowed(where, streamSources())
  const { read } = useServices().database
  const planned = await plannedChannels(read, id, { further: false })
  const usual = await numbersOfTest(read, id)
  const preview = previewFile(await lookAtStream(where), planned, await rememberedColumns(read, id), {}, usual)
  // A date that may be two days is no clock until somebody says so.
  const { t, ...others } = preview.guess
  return { preview: t && preview.openDates?.[t.column] ? { ...preview, guess: others } : preview }
})
