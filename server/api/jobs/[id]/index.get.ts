/** How far a job is. */
export default defineRoute(event => useServices().jobs.state(idOf(event)))
