/** Closes an interrupted run with what was recorded. */
export default defineRoute(async event => {
  await useServices().runs.close(personOf(event), idOf(event))
  return { ok: true }
})
