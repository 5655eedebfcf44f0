/** Runs and rehearsals that go on now, for the band on every page. */
export default defineRoute(() => useServices().runs.going())
