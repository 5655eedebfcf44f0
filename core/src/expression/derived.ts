import { findUnit, siUnitOf } from '../quantity/index'
import { DIMENSIONLESS, type Dimension } from '../quantity/dimension'
import { dimensionOf } from './dimensions'
import { namesIn, parse } from './parse'
import { evaluateRecord } from './record'
import { expressionError } from './tokens'

export interface Derived {
  values: Float64Array
  /** SI unit that follows from those of the channels. */
  unit: string
}

/** How far an interval may be off the mean for what looks along the record. */
const UNEVEN = 0.2

/**
 * A channel derived from others of one record, its unit with it.
 *
 * @param read  samples of a channel by its symbol, SI
 * @param units  SI unit of every channel by its symbol; an empty one counts as a plain number
 * @throws HypometError `expression` with the position
 */
export async function deriveChannel(text: string, t: Float64Array, units: Readonly<Record<string, string>>, read: (symbol: string) => Promise<Float64Array>): Promise<Derived> {
  const tree = parse(text)
  const dimensions: Record<string, Dimension> = Object.fromEntries(Object.entries(units).map(([symbol, unit]) => [symbol, findUnit(unit || '1', 'gravity')?.dimension ?? DIMENSIONLESS]))
  const unit = siUnitOf(dimensionOf(tree, dimensions))
  const channels: Record<string, Float64Array> = {}
  for (const symbol of namesIn(tree)) if (Object.hasOwn(units, symbol)) channels[symbol] = await read(symbol)
  const along = /\b(deriv|integ|lowpass)\s*\(/.exec(text)
  const interval = (t.at(-1)! - t[0]!) / (t.length - 1)
  if (along && t.some((v, i) => i > 0 && !(Math.abs(v - t[i - 1]! - interval) <= UNEVEN * interval))) throw expressionError(`“${along[1]}” needs evenly spaced samples, and these are not`, along.index)
  return { values: evaluateRecord(text, { channels, interval }), unit }
}
