import { HypometError } from '../error'
import type { LiveFrom, LiveKind } from '../rig/liveReader'
import { families } from './methods'

/** How a kind of test is read while it runs; null where load and governing reading say all. */
export function liveKindOf(family: string): LiveKind<LiveFrom<unknown>['plan']> | null {
  const f = families[family]
  if (!f) throw new HypometError('unknown-family', `There is no test family “${family}”.`, { path: 'family' })
  return (f.stages.live as LiveKind<unknown> | undefined) ?? null
}
