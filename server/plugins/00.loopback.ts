import { readEnvironment } from '../environment'
import { isLoopback } from '../utils/loopback'

/** Until there are accounts, Hypomet listens on this machine only. */
export default defineNitroPlugin(() => {
  const { host } = readEnvironment()
  if (!isLoopback(host)) {
    console.error(`Hypomet has no sign-in yet and listens on 127.0.0.1 only; it will not start on ${host}.`)
    process.exit(1)
  }
  process.env['NITRO_HOST'] = host
})
