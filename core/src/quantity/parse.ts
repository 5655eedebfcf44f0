import { HypometError } from '../error'
import { KINDS, type Kind } from './kinds'
import { unitFor, type Quantity } from './convert'
import { findUnit } from './units'

/** Words that people put between the number and the unit, or write out. */
const WRITTEN_OUT: Record<string, string> = {
  'in H2O': 'inH2O',
  'mm H2O': 'mmH2O',
  'in Hg': 'inHg',
  '"': 'in',
  "'": 'ft',
  lbs: 'lb',
  'pound-force': 'lbf',
  microstrain: 'µε',
}

/**
 * Reads what people type: “850 lbf”, “3,2 kN”, “12 in H2O”, “3.2e-3 in”, “-5%”. One decimal comma or point, no
 * thousands sign; without a unit the `fallback` unit is meant (SI when none is given).
 *
 * @returns the number and the unit as typed
 * @throws  HypometError `not-a-number`, `unit-unknown`, `unit-dimension`
 * @example parseQuantity('3,2 kN', 'force') // { value: 3.2, unit: 'kN' }
 */
export function parseQuantity(text: string, kind: Kind, fallback: string = KINDS[kind].si): Quantity {
  const { value, written } = split(text)
  const unit = written === '' ? fallback : written
  unitFor(unit, kind)
  return { value, unit }
}

/**
 * The same where any unit will do; a number alone stays one.
 *
 * @throws HypometError `not-a-number`, `unit-unknown`
 */
export function parseAnyQuantity(text: string): Quantity | number {
  const { value, written } = split(text)
  if (written === '') return value
  if (!findUnit(written, 'gravity')) throw new HypometError('unit-unknown', `“${written}” is not a unit Hypomet knows.`)
  return { value, unit: written }
}

function split(text: string): { value: number; written: string } {
  const match = /^\s*([+-−]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?)\s*(.*?)\s*$/.exec(text)
  if (!match)
    throw new HypometError(
      'not-a-number',
      text.trim() === '' ? 'A number is needed here.' : `“${text.trim()}” does not begin with a number.`,
    )
  const value = Number(match[1]!.replace(',', '.').replace('−', '-'))
  return { value, written: WRITTEN_OUT[match[2]!] ?? match[2]! }
}
