/** A job as it goes on, as server-sent events: what it is doing, and in the end how it ended. */
export default defineRoute(async event => {
  const { jobs } = useServices()
  const id = idOf(event)
  await jobs.state(id)
  const stream = createEventStream(event)
  // One message at a time: while a slow reader takes one, newer states replace what waits.
  let [sending, isStale] = [false, false]
  const send = async () => {
    isStale = true
    if (sending) return
    sending = true
    while (isStale) {
      isStale = false
      const state = await jobs.state(id)
      await stream.push(JSON.stringify(state))
      if (state.status !== 'running') return stream.close()
    }
    sending = false
  }
  const tell = () => void send().catch(() => stream.close())
  const leave = jobs.follow(id, tell)
  stream.onClosed(() => Promise.resolve(leave()))
  tell()
  return stream.send()
})
