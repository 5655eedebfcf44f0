import type { Kind } from '../quantity/index'
import type { Warning } from '../warning'
/** How sure the side of a value is. An interval's value is its middle. */
export type Bound = 'exact' | 'atLeast' | 'atMost' | { interval: [number, number] }

export interface Result {
  /** SI, or null where it cannot be had. */
  value: number | null
  unit: string
  bound: Bound
  /** Standard uncertainty, SI. */
  u?: number
  /** Coverage factor: the expanded uncertainty is k·u. */
  k?: number
  /** What u is made of, largest first, each as a standard uncertainty. */
  parts?: { name: string; u: number }[]
}

export interface ResultTable {
  columns: Record<string, (number | string | null)[]>
  units: Record<string, string>
}

export interface Reduction {
  results: Record<string, Result>
  tables: Record<string, ResultTable>
  warnings: Warning[]
  /** SI arrays that the figures are drawn from; not part of the stored output. */
  traces: Record<string, Float64Array>
}

/** A reduction or calculation as it is stored and printed. The same inputs give the same bytes. */
export interface MethodOutput {
  family?: string
  calc?: string
  method: string
  version: string
  results: Record<string, Result>
  tables: Record<string, ResultTable>
  warnings: Warning[]
  /** Of results of one's own: what they measure; null where it has no name. */
  own?: Record<string, { kind: Kind | null }>
}

/** Strips what is not stored, and lets no NaN or infinity out. */
export function toOutput(
  name: { family: string } | { calc: string },
  version: string,
  r: Omit<Reduction, 'traces'>,
  own: Record<string, { kind: Kind | null }> = {},
): MethodOutput {
  const finite = (x: number | null) => (x !== null && Number.isFinite(x) ? x : null)
  const results = Object.fromEntries(
    Object.entries(r.results).map(([key, result]) => {
      const { u, k, parts, ...rest } = result
      const kept =
        u !== undefined && Number.isFinite(u)
          ? { u, ...(k !== undefined && Number.isFinite(k) ? { k } : {}), ...(parts ? { parts } : {}) }
          : {}
      return [key, { ...rest, value: finite(result.value), ...kept }]
    }),
  )
  const tables = Object.fromEntries(
    Object.entries(r.tables).map(([name, t]) => [
      name,
      {
        columns: Object.fromEntries(
          Object.entries(t.columns).map(([c, cells]) => [c, cells.map(x => (typeof x === 'string' ? x : finite(x)))]),
        ),
        units: t.units,
      },
    ]),
  )
  const id = 'family' in name ? name.family : name.calc
  const kinds = Object.entries(own).map(([key, { kind }]) => [key, { kind }] as const)
  const ofOwn = kinds.length > 0 ? { own: Object.fromEntries(kinds) } : {}
  return { ...name, method: id, version, results, tables, warnings: r.warnings, ...ofOwn }
}
