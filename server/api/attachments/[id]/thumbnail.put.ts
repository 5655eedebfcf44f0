import { keepThumbnail } from '../../../db/tests/attachments'

/** Keeps a small picture that the browser made. */
export default defineRoute(async event => {
  await keepThumbnail(useServices().database, idOf(event), (await readRawBody(event, false)) ?? new Uint8Array())
  return { ok: true }
})
