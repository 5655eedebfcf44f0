import { commandBody } from '../../../live/commandBody'

/** A command of the console to the run. */
export default defineRoute({ body: commandBody }, async (event, { body }) => {
  const { runs } = useServices()
  await runs.command(idOf(event), personOf(event), body)
  return { ok: true, isStored: body.command === 'abort' ? await runs.isOnDisk(idOf(event)) : true }
})
