import { version } from '../package.json'

export const SOFTWARE_VERSION: string = version
