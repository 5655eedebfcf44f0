import * as z from 'zod'
import { sameDimension, siUnit, type Kind } from '../quantity/index'
import { KINDS } from '../quantity/kinds'
import { anyQuantity, plain, type AnyQuantity } from '../method/settings'
import { stop, type Finding } from './finding'
import type { PlanChannel } from './channels'

export const WATCH_KINDS = [
  'limit',
  'rate',
  'twin',
  'line',
  'onset',
  'leak',
  'steady',
  'heads-for',
  'next-rung',
  'failure',
] as const
export type WatchKind = (typeof WATCH_KINDS)[number]
export const WATCH_ACTIONS = ['warn', 'hold', 'abort'] as const
export type WatchAction = (typeof WATCH_ACTIONS)[number]

/** What is watched while the ladder is climbed, on every sample, and what then happens. */
export const watchRuleSchema = z.object({
  kind: z.enum(WATCH_KINDS).meta({ title: 'Watch' }),
  role: z.string().min(1).meta({ title: 'Channel' }),
  /**
   * Reading; reading a second; difference of twins; share off the line; share of the estimated critical load; fall a
   * second
   * in a hold; distance from the steady value; the steady value itself; reading at the
   * next rung; share of the peak.
   */
  value: anyQuantity({ title: 'Beyond', positive: true }),
  action: z.enum(WATCH_ACTIONS).default('hold').meta({ title: 'Then' }),
  /** s that it must last. */
  lasts: plain({ title: 'For, s', min: 0, max: 600 }).default(0),
})
export const watchField = z.array(watchRuleSchema).default([]).meta({ title: 'Watch rules' })

export type WatchRule = z.output<typeof watchRuleSchema>

/** What a rule's number is: of the channel, of it a second, or a share. */
const shares: readonly WatchKind[] = ['line', 'onset', 'failure']
const perSecond: readonly WatchKind[] = ['rate', 'leak']

/** Rules that cannot be: a channel that is not there, a number in another unit, twins without a twin. */
export function watchFindings(rules: readonly WatchRule[], channels: readonly PlanChannel[]): Finding[] {
  return rules.flatMap((r, i): Finding[] => {
    const c = channels.find(x => x.role === r.role)
    if (!c)
      return [
        stop(
          'watch-channel',
          `watch.${i}.role`,
          `There is no channel “${r.role}” to watch.`,
          'Use the short name of a channel of this plan.',
        ),
      ]
    if (r.kind === 'twin' && !channels.some(x => x.role === c.twin))
      return [
        stop(
          'watch-twin',
          `watch.${i}.role`,
          `${c.label} has no redundant channel to compare with.`,
          'Choose its redundant channel in the channel table.',
        ),
      ]
    const unit = shares.includes(r.kind) ? 'a share' : `in ${siUnit(c.kind)}${perSecond.includes(r.kind) ? '/s' : ''}`
    return fits(r.kind, r.value, c.kind)
      ? []
      : [stop('unit-dimension', `watch.${i}.value`, `This must be ${unit}.`, 'Enter it in such a unit.')]
  })
}

function fits(kind: WatchKind, { dimension }: AnyQuantity, of: Kind): boolean {
  if (dimension === null) return true
  const wanted = shares.includes(kind)
    ? KINDS.ratio.dimension
    : perSecond.includes(kind)
      ? KINDS[of].dimension.map((n, i) => n - KINDS.time.dimension[i]!)
      : KINDS[of].dimension
  return sameDimension(dimension, wanted)
}
