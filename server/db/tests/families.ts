import { families, HypometError, type AnyFamily } from '@hypomet/core'

/** The registered family of a stored test or article. @throws HypometError `unknown-family` */
export function familyOf(id: string): AnyFamily {
  const family = families[id]
  if (!family) throw new HypometError('unknown-family', `There is no test family “${id}”.`, { path: 'family' })
  return family
}
