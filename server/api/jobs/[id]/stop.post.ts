/** Stops a job; nothing of it is kept. */
export default defineRoute(event => {
  useServices().jobs.cancel(idOf(event))
  return { stopping: true }
})
