import { HypometError } from '../error'
import { KINDS, type Kind } from './kinds'
import { unitFor, type Quantity } from './convert'
import { readNumber, type NumberStyle } from './number'
import { findUnit } from './units'
import { lookUp } from './lookUp'

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

/** What is meant by pounds follows from what is measured. */
const POUNDS: Record<string, Partial<Record<Kind, string>>> = Object.fromEntries(
  ['pound', 'pounds'].map(word => [word, { force: 'lbf', mass: 'lb' }]),
)

/**
 * Reads what people type: “850 lbf”, “3,2 kN”, “5 000 lbf”, “12 in H2O”, “3.2e-3 in”, “-5%”; without a unit the
 * `fallback` unit is meant (SI when none is given).
 *
 * @param style  how the campaign writes its numbers; without it “5,000” is asked about
 * @returns the number and the unit as typed
 * @throws  HypometError `not-a-number`, `number-ambiguous`, `unit-unknown`, `unit-dimension`
 * @example parseQuantity('3,2 kN', 'force') // { value: 3.2, unit: 'kN' }
 */
export function parseQuantity(
  text: string,
  kind: Kind,
  fallback: string = KINDS[kind].si,
  style?: NumberStyle,
): Quantity {
  const { value, written } = split(text, style)
  const unit = written === '' ? fallback : (lookUp(POUNDS, written.toLowerCase())?.[kind] ?? written)
  unitFor(unit, kind)
  return { value, unit }
}

/**
 * The same where any unit will do; a number alone stays one.
 *
 * @throws HypometError `not-a-number`, `number-ambiguous`, `unit-unknown`
 */
export function parseAnyQuantity(text: string, style?: NumberStyle): Quantity | number {
  const { value, written } = split(text, style)
  if (written === '') return value
  if (!findUnit(written, 'gravity')) throw new HypometError('unit-unknown', `“${written}” is not a unit Hypomet knows.`)
  return { value, unit: written }
}

function split(text: string, style: NumberStyle | undefined): { value: number; written: string } {
  const read = readNumber(text, style)
  if (!read)
    throw new HypometError(
      'not-a-number',
      text.trim() === '' ? 'A number is needed here.' : `“${text.trim()}” does not begin with a number.`,
    )
  const written = read.rest.trim()
  if (/^[\d.,]/.test(written) && !findUnit(written, 'gravity'))
    throw new HypometError('not-a-number', `“${text.trim()}” is more than one number, or none.`)
  return { value: read.value, written: lookUp(WRITTEN_OUT, written) ?? written }
}
