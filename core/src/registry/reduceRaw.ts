import { isLikeItsChannels, withNames } from '../expression/derived'
import { namesIn, parse } from '../expression/parse'
import { isHypometError } from '../error'
import type { AnyFamily } from '../family/contract'
import { reduceTable } from '../family/reduceTable'
import { withUncertainty } from '../family/uncertainty'
import { withDerived } from '../method/derive'
import type { Figure } from '../method/figure'
import type { Reduction } from '../method/reduction'
import { readyRows } from '../method/rows'
import type { ReduceContext, Role, Table } from '../method/table'
import { drawOwn } from '../own/drawOwn'
import { ownIn, type Own } from '../own/own'
import { reduceOwn, type OwnContext, type OwnResult } from '../own/reduceOwn'
import { KINDS } from '../quantity/kinds'
import { siUnit } from '../quantity/index'
import type { Warning } from '../warning'
import { guideOf } from './guide'

/** A record as it was read: every channel that something names, of which the kind of test itself reads some. */
export interface RawRecord {
  table: Table
  roles: Record<string, Role>
  /** Channels that only expressions and results of one’s own read. */
  beside: ReadonlySet<string>
  strains: ReadonlySet<string>
  /** Rows to be reduced, where those are not the samples. */
  fromRun?: ((table: Table) => Table) | undefined
  rungs: readonly number[]
  /** Whether what the kind of test needs is there. */
  assert?: (table: Table) => void
}

export interface RawReduced {
  reduction: Reduction
  /** What the kind of test was given. */
  table: Table
  own: Record<string, OwnResult>
  /** Of results of one’s own that can be drawn. */
  drawOwn: () => Record<string, Figure>
}

/**
 * A record reduced: channels derived, what the kind of test reads handed to it, results of one’s own read beside. The
 * errors of sensors go through expressions to whatever is worked out from them.
 *
 * @param entered  settings as entered; `derive` and `own` of them are of every kind of test
 * @throws HypometError of the contract
 */
export function reduceRaw(
  family: AnyFamily,
  raw: RawRecord,
  settings: Record<string, unknown>,
  entered: Record<string, unknown>,
  context: ReduceContext,
  warnings: Warning[],
): RawReduced {
  const { roles, beside, fromRun } = raw
  const asked = ownIn(entered, Object.keys(family.results))
  const prepare = (t: Table, said: Warning[]): Table => {
    const whole = readyRows(without(withDerived(t, roles, entered), beside), roles, family.timeBase, said)
    return fromRun ? fromRun(whole) : whole
  }
  const table = prepare(raw.table, warnings)
  raw.assert?.(table)
  const bases = basesIn(entered)
  const reduction =
    bases.size > 0 && !fromRun
      ? withUncertainty(
          { ...family, reduce: (t: Table, s, c: ReduceContext) => family.reduce(prepare(t, []), s as never, c) },
          raw.table,
          settings,
          { ...context, sensors: sensorsBehind(table, bases, beside, context, warnings) },
          family.reduce(table, settings as never, context),
        )
      : reduceTable(family, table, settings, context)
  if (asked.length === 0) return { reduction, table, own: {}, drawOwn: () => ({}) }
  return { reduction, table, ...ownResults(family, raw, asked, settings, entered, context, { reduction, warnings }) }
}

function ownResults(
  family: AnyFamily,
  raw: RawRecord,
  asked: readonly Own[],
  settings: Record<string, unknown>,
  entered: Record<string, unknown>,
  context: ReduceContext,
  { reduction, warnings }: { reduction: Reduction; warnings: Warning[] },
): Pick<RawReduced, 'own' | 'drawOwn'> {
  const window = (key: string) => (Array.isArray(settings[key]) ? (settings[key] as [number, number]) : null)
  const guide = guideOf(family, raw.roles)
  const about: OwnContext = {
    guide,
    zeroStart: window('zeroStart'),
    zeroEnd: window('zeroEnd'),
    steps: reduction.tables['steps'] ?? null,
    rungs: raw.rungs,
    strains: strainsIn(raw, entered),
  }
  const wholeOf = (t: Table) => withUnits(withDerived(t, raw.roles, entered), raw.roles)
  const read = (t: Table, said: Warning[]): Reduction & { results: Record<string, OwnResult> } => ({
    results: reduceOwn(wholeOf(t), asked, about, said),
    tables: {},
    traces: {},
    warnings: [],
  })
  const { addsToUncertainty: _, doubt: __, isNoise: ___, ...plain } = family
  const bases = basesIn(entered)
  const behind = (names: readonly string[]) => names.flatMap(n => [...(bases.get(n) ?? [n])])
  const reads = (o: Own) => {
    const { at } = o
    const isAt = (key: string) => typeof at === 'object' && key in at
    const by =
      typeof at === 'object' && 'slope' in at ? namesOf(at.slope) : isAt('load') && guide !== null ? [guide] : []
    return behind([...namesOf(o.reads), ...by]).filter(n => n in raw.table.channels)
  }
  const named = new Set([...asked.flatMap(reads), ...(guide === null ? [] : behind([guide]))])
  const sensors = only(context.sensors, r => named.has(r))
  const first = read(raw.table, warnings)
  const kinds = first.results
  const { results } = withUncertainty(
    { ...plain, reduce: (t: Table) => read(t, []) } as AnyFamily,
    raw.table,
    settings,
    { ...context, sensors },
    first,
  )
  const own = Object.fromEntries(
    asked.map(o => {
      const r = results[o.name]!
      // What one of its channels may be off by is not known: then neither is what it may be off by itself.
      const unknown = reads(o).filter(n => !context.sensors[n])
      if (r.u !== undefined && unknown.length > 0) warnings.push(noSensor(o.name, unknown))
      const { u, k, parts, ...bare } = r
      const known = unknown.length > 0 || u === undefined ? {} : { u, k: k!, parts: parts! }
      return [o.name, { ...bare, ...known, kind: kinds[o.name]!.kind }]
    }),
  )
  const axis = guide === null ? null : (raw.roles[guide] ?? null)
  return { own, drawOwn: () => drawOwn(wholeOf(raw.table), asked, own, about, axis?.label ?? '') }
}

const noSensor = (what: string, of: readonly string[]): Warning => ({
  code: 'no-sensor',
  message: `${what}: no sensor is named for ${[...new Set(of)].join(', ')}, so it has no uncertainty by them.`,
})

/** Channels that were read, behind each that is derived. */
function basesIn(entered: Written): Map<string, ReadonlySet<string>> {
  const bases = new Map<string, ReadonlySet<string>>()
  for (const d of listOf(entered.derive)) {
    const [role, expression] = [d['role'], d['expression']]
    if (typeof role !== 'string' || typeof expression !== 'string') continue
    const [, ...names] = namesOf(expression)
    bases.set(role, new Set(names.flatMap(n => [...(bases.get(n) ?? [n])])))
  }
  return bases
}

/**
 * Sensors behind what a kind of test reads. Of a derived channel all count or none: a sum of seven cells of which six
 * are known would be too sure of itself.
 */
function sensorsBehind(
  table: Table,
  bases: ReadonlyMap<string, ReadonlySet<string>>,
  beside: ReadonlySet<string>,
  { sensors }: ReduceContext,
  warnings: Warning[],
): ReduceContext['sensors'] {
  const dropped = new Set<string>()
  const wanted = new Set<string>()
  for (const [role, names] of bases) {
    if (!(role in table.channels)) continue
    const unknown = [...names].filter(n => !sensors[n])
    for (const n of names) (unknown.length > 0 ? dropped : wanted).add(n)
    if (unknown.length > 0 && unknown.length < names.size) warnings.push(noSensor(role, unknown))
  }
  return only(sensors, r => !dropped.has(r) && (!beside.has(r) || wanted.has(r)))
}

function strainsIn({ strains, roles }: RawRecord, entered: Written): ReadonlySet<string> {
  const all = new Set([...strains, ...Object.keys(roles).filter(r => roles[r]!.kind === 'strain')])
  for (const d of listOf(entered.derive)) {
    const [role, expression] = [d['role'], d['expression']]
    if (typeof role !== 'string' || typeof expression !== 'string') continue
    const [, ...names] = namesOf(expression)
    if (names.length > 0 && names.every(n => all.has(n)) && isLikeItsChannels(expression)) all.add(role)
  }
  return all
}

/** Channels that a method reads by their roles are in SI of their kind, also where nothing says a unit. */
function withUnits(table: Table, roles: Record<string, Role>): Table {
  const known = Object.keys(table.channels).flatMap(r => {
    const kind = roles[r]?.kind
    return !table.units[r] && kind && kind in KINDS ? [[r, siUnit(kind as keyof typeof KINDS)] as const] : []
  })
  return {
    ...table,
    channels: { t: table.t, ...table.channels },
    units: { t: 's', ...table.units, ...Object.fromEntries(known) },
  }
}

function without(table: Table, names: ReadonlySet<string>): Table {
  if (names.size === 0) return table
  return { ...table, channels: only(table.channels, r => !names.has(r)), units: only(table.units, r => !names.has(r)) }
}

const only = <V>(all: Record<string, V>, holds: (key: string) => boolean): Record<string, V> =>
  Object.fromEntries(Object.entries(all).filter(([key]) => holds(key)))

function namesOf(text: string): string[] {
  try {
    return [text, ...namesIn(parse(text))]
  } catch (e) {
    // Whoever reads it says what is wrong with it.
    if (isHypometError(e)) return [text]
    throw e
  }
}

type Written = { derive?: unknown; own?: unknown }
const listOf = (written: unknown): Record<string, unknown>[] =>
  (Array.isArray(written) ? written : []).filter(
    (x): x is Record<string, unknown> => typeof x === 'object' && x !== null && !Array.isArray(x),
  )
const texts = (...all: unknown[]): string[] => all.filter((x): x is string => typeof x === 'string')

const derivedIn = (entered: Written): string[] =>
  listOf(entered.derive).flatMap(d => texts(d['expression']).flatMap(namesOf))

/** A reduction with results of one’s own behind those of its kind of test. */
export const withOwn = (reduction: Reduction, own: Record<string, OwnResult>): Reduction =>
  Object.keys(own).length === 0
    ? reduction
    : {
        ...reduction,
        results: {
          ...reduction.results,
          ...Object.fromEntries(Object.entries(own).map(([name, { kind: _, ...r }]) => [name, r])),
        },
      }

/**
 * Every name that settings say of a channel by themselves, in derived channels and in results of one’s own; also what
 * may be the name of a channel and may be an expression.
 */
export function namesAsked(entered: Readonly<Record<string, unknown>> | null | undefined): string[] {
  const { derive, own } = (entered ?? {}) as Written
  return [...new Set([...derivedIn({ derive }), ...readBy(own).flatMap(namesOf)])]
}

/** The same without what is an expression by itself: names of channels that must be there. */
export const channelsAsked = ({ own }: { own: readonly unknown[] }): string[] =>
  readBy(own).flatMap(text => {
    const [whole, ...names] = namesOf(text)
    return names.length > 0 ? names : [whole!]
  })

function readBy(own: unknown): string[] {
  return listOf(own).flatMap(o => {
    const at = o['at'] as { slope?: unknown } | null | undefined
    return texts(o['channel'], o['expression'], typeof at === 'object' ? at?.slope : undefined)
  })
}

/** Settings whose channels are called by their roles, where they were called by the symbols of their columns. */
export function withRoles(
  entered: Record<string, unknown>,
  roleOf: Readonly<Record<string, string>>,
): Record<string, unknown> {
  const map = new Map(Object.entries(roleOf))
  if (map.size === 0 || (entered['derive'] === undefined && entered['own'] === undefined)) return entered
  const said = (text: unknown): unknown => {
    if (typeof text !== 'string') return text
    if (map.has(text)) return map.get(text)
    try {
      return withNames(text, map)
    } catch (e) {
      if (isHypometError(e)) return text
      throw e
    }
  }
  const renamed = (list: unknown, keys: readonly string[]): unknown =>
    Array.isArray(list)
      ? list.map((x: unknown) => {
          if (typeof x !== 'object' || x === null) return x
          const row = x as Record<string, unknown>
          const at = row['at']
          const slope =
            typeof at === 'object' && at !== null && 'slope' in at ? { at: { ...at, slope: said(at.slope) } } : {}
          return { ...row, ...Object.fromEntries(keys.flatMap(k => (k in row ? [[k, said(row[k])]] : []))), ...slope }
        })
      : list
  return {
    ...entered,
    ...(entered['derive'] === undefined ? {} : { derive: renamed(entered['derive'], ['expression']) }),
    ...(entered['own'] === undefined ? {} : { own: renamed(entered['own'], ['channel', 'expression']) }),
  }
}
