/** Goes on with an interrupted run. */
export default defineRoute(async event => {
  await useServices().runs.resume(personOf(event), idOf(event))
  return { ok: true }
})
