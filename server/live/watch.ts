import type { PlanView, RigBlock } from '@hypomet/core'

/** A rule on full-rate data: beyond `limit` in size it speaks up once, and may hold the ladder. */
export interface Watch {
  key: string
  role: string
  limit: number
  note: string
  hold: boolean
}

const RANGE_SHARE = 0.95

/** Rules that every plan brings: no channel beyond 95 % of its sensor's range. */
export const watchesOf = (view: PlanView): Watch[] =>
  view.channels.flatMap(c => (c.fullScale === null ? [] : [{ key: `range:${c.role}`, role: c.role, limit: RANGE_SHARE * c.fullScale, note: `${c.label} is at 95 % of its range: ladder held`, hold: true }]))

export const crossedWatches = (watches: Watch[], block: RigBlock): Watch[] =>
  watches.filter(w => block.channels[w.role]?.some(v => Math.abs(v) > w.limit))
