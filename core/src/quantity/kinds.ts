import { findUnit } from './units'
import { BASES, DIMENSIONLESS, dimension, sameDimension, type Dimension } from './dimension'

/** Kinds of quantity that a setting, a channel or a result can be, with the SI unit in which the core computes. */
const kind = (si: string, dimension: Dimension) => ({ si, dimension })

export const KINDS = {
  ratio: kind('1', DIMENSIONLESS),
  /** A ratio that people read in microstrain. */
  strain: kind('1', DIMENSIONLESS),
  force: kind('N', dimension({ kg: 1, m: 1, s: -2 })),
  length: kind('m', dimension({ m: 1 })),
  area: kind('m²', dimension({ m: 2 })),
  volume: kind('m³', dimension({ m: 3 })),
  mass: kind('kg', dimension({ kg: 1 })),
  time: kind('s', dimension({ s: 1 })),
  pressure: kind('Pa', dimension({ kg: 1, m: -1, s: -2 })),
  angle: kind('rad', dimension({ rad: 1 })),
  rotation: kind('rad/s', dimension({ rad: 1, s: -1 })),
  velocity: kind('m/s', dimension({ m: 1, s: -1 })),
  acceleration: kind('m/s²', dimension({ m: 1, s: -2 })),
  torque: kind('N·m', dimension({ kg: 1, m: 2, s: -2 })),
  energy: kind('J', dimension({ kg: 1, m: 2, s: -2 })),
  power: kind('W', dimension({ kg: 1, m: 2, s: -3 })),
  voltage: kind('V', dimension({ kg: 1, m: 2, s: -3, A: -1 })),
  current: kind('A', dimension({ A: 1 })),
  resistance: kind('ohm', dimension({ kg: 1, m: 2, s: -3, A: -2 })),
  capacitance: kind('F', dimension({ kg: -1, m: -2, s: 4, A: 2 })),
  frequency: kind('Hz', dimension({ s: -1 })),
  volumeFlow: kind('m³/s', dimension({ m: 3, s: -1 })),
  density: kind('kg/m³', dimension({ kg: 1, m: -3 })),
  massPerLength: kind('kg/m', dimension({ kg: 1, m: -1 })),
  loadPerLength: kind('N/m', dimension({ kg: 1, s: -2 })),
  stiffness: kind('N/m', dimension({ kg: 1, s: -2 })),
  specificEnergy: kind('J/kg', dimension({ m: 2, s: -2 })),
  inertia: kind('kg·m²', dimension({ kg: 1, m: 2 })),
  bendingStiffness: kind('N·m²', dimension({ kg: 1, m: 3, s: -2 })),
  accelerationDensity: kind('m²/s³', dimension({ m: 2, s: -3 })),
  viscosity: kind('Pa·s', dimension({ kg: 1, m: -1, s: -1 })),
  sweepRate: kind('1/s', dimension({ s: -1 })),
  /** A share that goes in a time. */
  leakRate: kind('1/s', dimension({ s: -1 })),
  perKelvin: kind('1/K', dimension({ K: -1 })),
  level: kind('dB', dimension({ dB: 1 })),
  bytes: kind('B', dimension({ B: 1 })),
  byteRate: kind('B/s', dimension({ B: 1, s: -1 })),
  temperature: kind('K', dimension({ K: 1 })),
  forceRate: kind('N/s', dimension({ kg: 1, m: 1, s: -3 })),
  pressureRate: kind('Pa/s', dimension({ kg: 1, m: -1, s: -3 })),
  temperatureRate: kind('K/s', dimension({ K: 1, s: -1 })),
  torsionalStiffness: kind('N·m/rad', dimension({ kg: 1, m: 2, s: -2, rad: -1 })),
  thrustPerPower: kind('N/W', dimension({ m: -1, s: 1 })),
  compliance: kind('m/N', dimension({ kg: -1, s: 2 })),
  conductance: kind('S', dimension({ kg: -1, m: -2, s: 3, A: 2 })),
  inductance: kind('H', dimension({ kg: 1, m: 2, s: -2, A: -2 })),
} as const

export type Kind = keyof typeof KINDS

export const siUnit = (kind: Kind): string => KINDS[kind].si

/** Kind of a dimension when only the unit is known: the first in the list above that has it. */
export const kindOf = (d: Dimension): Kind | null =>
  (Object.keys(KINDS) as Kind[]).find(k => sameDimension(KINDS[k].dimension, d)) ?? null

/** SI unit of any dimension: the listed name where there is one, else written out in base units. */
export function siUnitOf(d: Dimension): string {
  const known = kindOf(d)
  if (known) return KINDS[known].si
  return BASES.flatMap((base, i) => (d[i] ? [d[i] === 1 ? base : `${base}^${d[i]}`] : [])).join('·')
}

/**
 * Kind of a result by its SI unit as a method writes it: the name tells J from N·m where the dimension does not. A unit
 * that
 * is not SI – working days – has none: its number is shown as it is.
 */
export function kindOfSi(unit: string): Kind | null {
  const named = (Object.keys(KINDS) as Kind[]).find(k => KINDS[k].si === unit)
  const found = named ? null : findUnit(unit, 'gravity')
  const isSi = found !== null && found.multiply === found.divide && found.shift === 0
  return named ?? (isSi ? kindOf(found.dimension) : null)
}
