import { SOFTWARE_VERSION } from '../version'

export default defineRoute(() => ({ ok: true, version: SOFTWARE_VERSION }))
