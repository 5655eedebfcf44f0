import { isHypometError } from '@hypomet/core'
import { storeTrouble } from '../db/connection/trouble'
import { readEnvironment } from '../environment'
import { closeServices, openServices } from '../utils/services'

/** Nitro does not wait for plugins, so requests wait for this promise instead. */
export default defineNitroPlugin(nitro => {
  const ready = Promise.resolve().then(() => openServices(readEnvironment().databaseUrl))
  ready.then(
    applied => applied > 0 && console.log(`Database ready, ${applied} migrations applied.`),
    (e: unknown) => {
      const said = storeTrouble(e) ?? e
      console.error(
        isHypometError(said) ? said.message : 'The database could not be opened.',
        isHypometError(said) ? '' : e,
      )
      process.exit(1)
    },
  )
  nitro.hooks.hook('request', async () => void (await ready))
  nitro.hooks.hook('close', closeServices)
})
