import { HypometError } from '../error'
import { KINDS, type Kind } from './kinds'
import { dimension, sameDimension } from './dimension'
import { findUnit, type Unit } from './units'
import { lookUp } from './lookUp'

/** A number as it was entered, with the unit as it was typed. */
export interface Quantity {
  value: number
  unit: string
}

/**
 * The unit a text names, checked against the kind that is wanted. `g` is the gram where a mass is wanted and standard
 * gravity where an acceleration is; Hz and 1/min count turns where a rotation is wanted.
 *
 * @throws HypometError `unit-unknown`, `unit-dimension`
 */
export function unitFor(text: string, kind: Kind): Unit {
  const wanted = KINDS[kind].dimension
  const plain = findUnit(text)
  if (plain && sameDimension(plain.dimension, wanted)) return plain
  const withGravity = findUnit(text, 'gravity')
  if (withGravity && sameDimension(withGravity.dimension, wanted)) return withGravity
  if (!plain) throw new HypometError('unit-unknown', `“${text}” is not a unit Hypomet knows.`)
  if (kind === 'rotation' && sameDimension(plain.dimension, dimension({ s: -1 })))
    return { ...plain, multiply: plain.multiply * 2 * Math.PI, dimension: wanted }
  const force = kind === 'force' ? lookUp(FORCE_OF_MASS, text) : undefined
  throw new HypometError(
    'unit-dimension',
    force
      ? `“${text}” is a mass; the force that it weighs is written in ${force}.`
      : `“${text}” is not a unit of ${kindName(kind)}; expected ` +
          `${KINDS[kind].si === '1' ? 'a plain number or %' : `something like ${KINDS[kind].si}`}.`,
  )
}

/** Units of mass that people say where a force is meant. */
const FORCE_OF_MASS: Record<string, string> = { lb: 'lbf', kg: 'kgf' }

export const toSi = (value: number, unit: Unit): number => ((value + unit.shift) * unit.multiply) / unit.divide

export const fromSi = (si: number, unit: Unit): number => (si * unit.divide) / unit.multiply - unit.shift

/** Value in SI of a quantity of the given kind. @throws HypometError as `unitFor` */
export const quantityToSi = (q: Quantity, kind: Kind): number => toSi(q.value, unitFor(q.unit, kind))

/** “loadPerLength” → “load per length”, for sentences. */
export const kindName = (kind: Kind): string => kind.replace(/[A-Z]/g, c => ' ' + c.toLowerCase())
