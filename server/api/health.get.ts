import { SOFTWARE_VERSION } from '../version'

/** Whether the server is up, and its version. */
export default defineRoute(() => ({ ok: true, version: SOFTWARE_VERSION }))
