import { symbolsOf } from '@hypomet/core'

interface Named {
  id: number
  role: string
  symbol: string | null
  datasetId: number
}

/**
 * Symbols that expressions know channels by: the main record's first, so that those never change when others join.
 */
export function symbolsTogether(rows: readonly Named[]): Map<number, string> {
  const own = rows.filter(r => r.role !== 't' || r.datasetId === rows[0]!.datasetId)
  const symbols = symbolsOf(own.map(r => r.symbol ?? r.role))
  return new Map(own.map((r, i) => [r.id, symbols[i]!]))
}

/** Channels by all that an expression may call them: their symbols, and their roles beside. */
export function namesTogether<R extends Named>(rows: readonly R[]): Map<string, R> {
  const symbols = symbolsTogether(rows)
  const own = rows.filter(r => symbols.has(r.id))
  const named = new Map(own.map(r => [symbols.get(r.id)!, r]))
  for (const r of own) if (!named.has(r.role)) named.set(r.role, r)
  return named
}
