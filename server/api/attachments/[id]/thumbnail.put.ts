import { keepThumbnail } from '../../../db/tests/attachments'

export default defineRoute(async event => {
  await keepThumbnail(useServices().database, idOf(event), (await readRawBody(event, false)) ?? new Uint8Array())
  return { ok: true }
})
