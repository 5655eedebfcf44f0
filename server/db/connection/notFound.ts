import { HypometError } from '@hypomet/core'

export const notFound = (what: string, which: string | number): HypometError =>
  new HypometError('not-found', `There is no ${what} ${which}.`)
