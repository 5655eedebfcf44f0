import * as z from 'zod'
import { anyQuantity, issue, parseSettings, quantity, timeWindow, type AnyQuantity } from '../method/settings'

/** Words that stand for a place by themselves. */
export const OWN_PLACES = ['peak', 'end', 'largest', 'smallest', 'range', 'set'] as const
export type OwnPlace = (typeof OWN_PLACES)[number]

/** Where or how a channel is read: a word, or one key with what it needs. */
export type OwnAt =
  | OwnPlace
  /** Where the load first comes to it. */
  | { load: AnyQuantity }
  /** Mean over the step that stands at the plan’s rung, or over the n-th step; from 1. */
  | { rung: number }
  | { step: number }
  | { time: number }
  | { mean: [number, number] }
  /** Slope on another channel, up to the peak; between two values of that channel where they are given. */
  | { slope: string; between?: [AnyQuantity, AnyQuantity] | undefined }
  /** What it goes by over the n-th step. */
  | { creep: number }

const count = z.int().min(1)
const KEYS = {
  load: z.strictObject({ load: anyQuantity() }),
  rung: z.strictObject({ rung: count }),
  step: z.strictObject({ step: count }),
  time: z.strictObject({ time: quantity('time') }),
  mean: z.strictObject({ mean: timeWindow() }),
  slope: z.strictObject({
    slope: z.string().min(1),
    between: z.tuple([anyQuantity(), anyQuantity()]).optional(),
  }),
  creep: z.strictObject({ creep: count }),
} as const

const at = z.unknown().transform((raw, ctx): OwnAt => {
  if (raw === undefined) return issue(ctx, 'missing-setting', 'Say where: “peak”, { "load": … }, { "step": 2 } …')
  if (typeof raw === 'string')
    return (OWN_PLACES as readonly string[]).includes(raw)
      ? (raw as OwnPlace)
      : issue(ctx, 'setting-range', `“${raw}” is no place: ${OWN_PLACES.join(', ')}.`)
  const keys = typeof raw === 'object' && raw !== null ? Object.keys(raw) : []
  const key = (Object.keys(KEYS) as (keyof typeof KEYS)[]).find(k => keys.includes(k))
  if (!key) return issue(ctx, 'setting-type', `A place is one of ${[...OWN_PLACES, ...Object.keys(KEYS)].join(', ')}.`)
  const parsed = KEYS[key].safeParse(raw)
  if (parsed.success) return parsed.data as OwnAt
  ctx.issues.push(...(parsed.error.issues as never[]))
  return z.NEVER
})

const own = z
  .strictObject({
    name: z.string().trim().min(1).max(80).meta({ title: 'Name' }),
    channel: z.string().min(1).max(2000).optional(),
    expression: z.string().min(1).max(2000).optional(),
    at,
    /** What is taken off: the mean over a window; null for the reading as it is. Left out: the zero of the others. */
    zero: timeWindow('Zero').nullable().optional(),
  })
  .transform((o, ctx) => {
    const read = o.channel ?? o.expression
    if (read === undefined || (o.channel !== undefined && o.expression !== undefined))
      return issue(ctx, 'missing-setting', 'A channel or an expression is needed, one of the two.', ['channel'])
    return { name: o.name, reads: read, isExpression: o.channel === undefined, at: o.at, zero: o.zero }
  })

/** A result of one’s own: what is read, and where. */
export type Own = z.output<typeof own>

export const ownField = z.array(own).max(200).default([])

/**
 * Results of one’s own that settings ask for, whatever the kind of test: `own: [{ name, channel, at }]`.
 *
 * @param entered  settings as entered
 * @param taken  names of results that the kind of test has itself
 * @throws HypometError `missing-setting`, `setting-type`, `setting-range`, `unit-unknown` at `settings.own.<row>`
 */
export function ownIn(entered: unknown, taken: readonly string[]): Own[] {
  const written = (entered as { own?: unknown } | null | undefined)?.own
  if (written === undefined || written === null) return []
  const named = ownField.superRefine((list, ctx) => {
    for (const [i, o] of list.entries())
      if (taken.includes(o.name) || list.findIndex(x => x.name === o.name) < i)
        issue(ctx as never, 'setting-range', `There is a result “${o.name}” already.`, [i, 'name'])
  })
  return parseSettings(named, written, 'settings.own')
}
