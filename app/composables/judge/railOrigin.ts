import type { Kind } from '@hypomet/core'

/** Where a rail of a quantity begins: temperatures at the scale's own zero, everything else at none of it. */
export const railOrigin = (kind: Kind): number | undefined => (kind === 'temperature' ? 273.15 : undefined)
