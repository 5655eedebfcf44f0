import {
  isHypometError,
  proposeFor,
  reduceRecord,
  type CallOut,
  type DeclaredOwn,
  type Fact,
  type KeptDerived,
  type MethodOutput,
  toRefusal,
  type Refusal,
  type PlanView,
  type ReducedRecord,
  type SensorSpecification,
  type StoredRecord,
} from '@hypomet/core'
import { unpackRecord } from '../composables/record/unpackRecord'

/** A record is sent once; then settings as often as a person changes them. */
export type ReducerAsk = { id: number } & (
  | { what: 'load'; packed: ArrayBuffer; family: string; plan: unknown; view: PlanView | null; facts: readonly Fact[] }
  /** Anew, for a piece of the record that somebody chose. */
  | { what: 'propose'; piece: unknown }
  /** Without figures named all are drawn. Quick: uncertainties go along with their values until something rests. */
  | { what: 'reduce'; settings: Record<string, unknown>; shown: string[] | null; quick: boolean }
)
export type ReducerHeard = { id: number } & (
  { settings: Record<string, unknown>; further: Further[] } | { reduced: ReducedRecord } | { refusal: Refusal }
)

/** A channel that settings can call by its symbol. */
export interface Further {
  symbol: string
  name: string
  unit: string
}

interface Head {
  own: DeclaredOwn[]
  further: Further[]
  rows: number
  roles: string[]
  units: Record<string, string>
  labels: Record<string, string[]>
  hasClock: boolean
  name: string
  aliases: Record<string, string>
  strains: string[]
  derived: KeptDerived[]
  beside: Record<string, { unit: string; isStrain: boolean }>
  sensors: Record<string, SensorSpecification>
  outcome: string
  calls?: CallOut[]
  peak: number | null
}

let held: {
  family: string
  record: StoredRecord
  plan: unknown
  view: PlanView | null
  sensors: Head['sensors']
  outcome: string
  calls: Head['calls']
  peak: number | null
  further: Further[]
  own: DeclaredOwn[]
  facts: readonly Fact[]
} | null = null

let last: MethodOutput['results'] = {}

const tell = (heard: ReducerHeard) => self.postMessage(heard)

self.onmessage = ({ data }: MessageEvent<ReducerAsk>) => {
  const { id } = data
  try {
    if (data.what === 'load') {
      const { head, record } = unpack(data.packed)
      held = {
        family: data.family,
        record,
        plan: data.plan,
        view: data.view,
        sensors: head.sensors,
        outcome: head.outcome,
        calls: head.calls,
        peak: head.peak,
        further: head.further,
        own: head.own,
        facts: data.facts,
      }
    }
    if (!held) return
    if (data.what === 'reduce') {
      const reduced = reduceRecord(
        held.family,
        held.record,
        data.settings,
        data.quick ? { ...held, sensors: {} } : held,
        data.shown ?? undefined,
      )
      if (data.quick) carryUncertainty(reduced.output.results)
      else last = reduced.output.results
      return tell({ id, reduced })
    }
    const asked = data.what === 'propose' ? { piece: data.piece } : null
    tell({ id, settings: proposeFor(held.family, held.record, { ...held, asked }), further: held.further })
  } catch (e) {
    if (!isHypometError(e)) throw e
    tell({ id, refusal: toRefusal(e) })
  }
}

/** Of the last whole reduction, in proportion to the values; what it is made of with it. */
function carryUncertainty(results: MethodOutput['results']): void {
  for (const [key, r] of Object.entries(results)) {
    const before = last[key]
    if (before?.u === undefined || !before.value || r.value === null) continue
    const { k, parts } = before
    const u = Math.abs((before.u * r.value) / before.value)
    Object.assign(r, { u, ...(k === undefined ? {} : { k }), ...(parts ? { parts } : {}) })
  }
}

function unpack(packed: ArrayBuffer): { head: Head; record: StoredRecord } {
  const { head, columns } = unpackRecord<Head>(packed)
  const { units, labels, hasClock, name, aliases, strains, beside, derived } = head
  const named = Object.entries(beside).map(([symbol, said]) => [symbol, { ...said, y: columns[symbol]! }] as const)
  const own = Object.entries(columns).filter(([role]) => !(role in beside))
  const read = { columns: Object.fromEntries(own), beside: Object.fromEntries(named) }
  return { head, record: { ...read, units, labels, hasClock, name, aliases, strains, derived } }
}
