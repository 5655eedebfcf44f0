export default defineRoute(event => useServices().jobs.state(idOf(event)))
