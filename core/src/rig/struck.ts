import { HypometError } from '../error'
import type { PlanView } from '../plan/planView'
import { formatQuantity, type UnitPreference } from '../quantity/index'

/* A reading that was written down wrong is struck out with the right one beside it: both stay, and the right one
 * counts. */

/** Kind of the event that strikes a reading out: at its time, of its channel, with the right value as its reading. */
export const STRUCK = 'struck out'

/** What strikes need of a run's events. */
export interface SaidOfRun {
  t: number
  kind: string
  reading: number | null
  role?: string | null
}

/** From one time to before another a channel read this, SI. */
export interface Strike {
  role: string
  from: number
  until: number
  value: number
}

const rolesOf = ({ role }: SaidOfRun): string[] => role?.split(' ') ?? []

/** The reading by hand that was said of a channel at a time; undefined where none was. */
export const readingAt = <E extends SaidOfRun>(events: readonly E[], t: number, role: string): E | undefined =>
  events.find(e => e.kind === 'call-out' && e.t === t && rolesOf(e).includes(role))

/** Whether a channel was read again after a time. */
export const isReadAfter = (events: readonly SaidOfRun[], t: number, role: string): boolean =>
  events.some(e => e.kind === 'call-out' && e.t > t && rolesOf(e).includes(role))

/**
 * What is written beside a reading that is struck out; its time, its rung and whoever does it are the caller's.
 *
 * @param said  as it was written down, by `readingAt`
 * @param right  SI
 * @throws HypometError `no-reading` where nothing was
 */
export function struckOut<E extends SaidOfRun & { value: number | null }>(
  { view, prefer }: { view: Pick<PlanView, 'channels' | 'commanded' | 'read'>; prefer: UnitPreference },
  said: E | undefined,
  { at, role, right, note }: { at: number; role: string; right: number; note: string },
): { said: E; words: { kind: string; value: null; reading: number; note: string; role: string } } {
  if (!said)
    throw new HypometError(
      'no-reading',
      `Nobody wrote this down by hand at ${at.toFixed(1)} s: there is nothing to strike out.`,
      { path: 'at' },
    )
  const { label, kind } = view.channels.find(c => c.role === role) ?? view.commanded
  const show = (si: number) => formatQuantity(si, kind, { prefer, digits: 4 })
  const before = role === view.commanded.role ? said.value : role === view.read.role ? said.reading : null
  const was = before === null ? '' : `${show(before)} is struck out, `
  const words = `${label}: ${was}${show(right)} is right${note ? `; ${note}` : ''}`
  return { said, words: { kind: STRUCK, value: null, reading: right, note: words, role } }
}

/**
 * What was struck out, each until the channel was read again; of several strikes of one reading the newest counts.
 *
 * @param events  in the order in which they were said
 */
export function strikesIn(events: readonly SaidOfRun[]): Strike[] {
  const called = events.filter(e => e.kind === 'call-out')
  const newest = new Map<string, Strike>()
  for (const e of events) {
    if (e.kind !== STRUCK || e.reading === null || !e.role) continue
    const role = e.role
    const until = Math.min(...called.filter(c => c.t > e.t && rolesOf(c).includes(role)).map(c => c.t))
    newest.set(`${role} ${e.t}`, { role, from: e.t, until, value: e.reading })
  }
  return [...newest.values()]
}

/** Columns of a record with what was struck out replaced; those given are not changed. */
export function withStrikes(
  columns: Readonly<Record<string, Float64Array>>,
  strikes: readonly Strike[],
): Record<string, Float64Array> {
  const t = columns['t']
  if (!t || strikes.length === 0) return { ...columns }
  const out = { ...columns }
  for (const { role, from, until, value } of strikes) {
    const y = out[role]
    if (y) out[role] = y.map((v, i) => (t[i]! >= from && t[i]! < until ? value : v))
  }
  return out
}
