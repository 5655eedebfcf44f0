import { findUnit, siUnitOf } from '../quantity/index'
import { DIMENSIONLESS, type Dimension } from '../quantity/dimension'
import { dimensionOf } from './dimensions'
import { namesIn, parse } from './parse'
import { evaluateRecord } from './record'
import { isHypometError } from '../error'
import { expressionError, tokenize } from './tokens'

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
 * Whether an expression gives what the channels that it reads are, where all are of one kind: a mean of strains is a
 * strain, a ratio of two is none.
 */
export function isLikeItsChannels(text: string): boolean {
  try {
    return unitOfExpression(text, Object.fromEntries(namesIn(parse(text)).map(n => [n, 'm']))) === 'm'
  } catch (e) {
    if (isHypometError(e)) return false
    throw e
  }
}

/** An expression with other names for some of the channels that it reads. @throws HypometError `expression` */
export function withNames(text: string, names: ReadonlyMap<string, string>): string {
  const read = new Set(namesIn(parse(text)))
  return tokenize(text).reduceRight(
    (written, token) =>
      token.kind === 'name' && read.has(token.text) && names.has(token.text)
        ? written.slice(0, token.at) + names.get(token.text)! + written.slice(token.at + token.text.length)
        : written,
    text,
  )
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
  return evaluateRecord(text, { channels, t, interval })
}
