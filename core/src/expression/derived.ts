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
export async function deriveChannel(
  text: string,
  t: Float64Array,
  units: Readonly<Record<string, string>>,
  read: (symbol: string) => Promise<Float64Array>,
): Promise<Derived> {
  const unit = unitOfExpression(text, units)
  const channels: Record<string, Float64Array> = {}
  for (const symbol of namesIn(parse(text))) if (Object.hasOwn(units, symbol)) channels[symbol] = await read(symbol)
  return { values: valuesOf(text, t, channels), unit }
}

/** SI unit that follows from those of the channels. @throws HypometError `expression` */
export function unitOfExpression(text: string, units: Readonly<Record<string, string>>): string {
  const dimensions: Record<string, Dimension> = Object.fromEntries(
    Object.entries(units).map(([symbol, unit]) => [
      symbol,
      findUnit(unit || '1', 'gravity')?.dimension ?? DIMENSIONLESS,
    ]),
  )
  return siUnitOf(dimensionOf(parse(text), dimensions))
}

/**
 * Samples of an expression over channels of one clock. @throws HypometError `expression`, also where it looks along a
 * record that is not even
 */
export function valuesOf(
  text: string,
  t: Float64Array,
  channels: Readonly<Record<string, Float64Array>>,
): Float64Array {
  const along = /\b(deriv|integ|lowpass)\s*\(/.exec(text)
  const interval = (t.at(-1)! - t[0]!) / (t.length - 1)
  if (along && !(interval > 0 && t.every((v, i) => i === 0 || Math.abs(v - t[i - 1]! - interval) <= UNEVEN * interval)))
    throw expressionError(`“${along[1]}” needs evenly spaced samples, and these are not`, along.index)
  return evaluateRecord(text, { channels, interval })
}
