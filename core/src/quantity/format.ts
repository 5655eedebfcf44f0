import { fromSi, toSi, unitFor } from './convert'
import { KINDS, type Kind } from './kinds'
import type { NumberStyle } from './number'

/** Units in which a campaign likes to read each kind; what is not named is shown in SI. */
export type UnitPreference = Partial<Record<Kind, string>> & {
  /** How typed numbers are read, and written where they can be typed over. */
  numbers?: NumberStyle | undefined
}

export const METRIC: UnitPreference = {
  force: 'kN',
  length: 'mm',
  mass: 'kg',
  pressure: 'MPa',
  stiffness: 'N/mm',
  bendingStiffness: 'kN·m²',
  temperature: '°C',
  ratio: '1',
  strain: 'µε',
  rotation: 'rpm',
  angle: '°',
  energy: 'J',
  time: 's',
  density: 'kg/m³',
  volume: 'L',
  loadPerLength: 'kN/m',
  volumeFlow: 'L/s',
  leakRate: '%/h',
  specificEnergy: 'kJ/kg',
  massPerLength: 'kg/m',
  capacitance: 'nF',
  inductance: 'mH',
  torsionalStiffness: 'kN·m/rad',
  compliance: 'mm/kN',
  conductance: 'mS',
}

export const IMPERIAL: UnitPreference = {
  ...METRIC,
  force: 'lbf',
  length: 'in',
  mass: 'lb',
  pressure: 'psi',
  stiffness: 'lbf/in',
  temperature: '°F',
  energy: 'ft·lbf',
  density: 'lb/in³',
  volume: 'ft³',
  loadPerLength: 'lbf/in',
  volumeFlow: 'cfm',
  velocity: 'ft/s',
  area: 'in²',
  torque: 'lbf·ft',
  forceRate: 'lbf/s',
  massPerLength: 'lb/ft',
  compliance: 'in/lbf',
  bendingStiffness: 'lbf·in²',
  torsionalStiffness: 'lbf·ft/rad',
  specificEnergy: 'ft·lbf/lb',
  thrustPerPower: 'lbf/W',
  inertia: 'lb·ft²',
}

const THIN_SPACE = '\u202f'
const MINUS = '−'

const tidy = (text: string): string => text.replace('-', MINUS)

/** Decimals that show `value` with `digits` significant digits. */
const decimalsFor = (value: number, digits: number): number =>
  value === 0
    ? 0
    : Math.min(12, Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(Number(value.toPrecision(digits)))))))

/** A plain number with significant digits, never “NaN”: what cannot be had is a dash. */
export function formatNumber(value: number | null | undefined, digits = 4): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return '–'
  const size = Math.abs(value)
  if (size !== 0 && (size >= 1e7 || size < 1e-4)) return tidy(value.toExponential(digits - 1))
  return tidy(value.toFixed(decimalsFor(value, digits)))
}

export interface FormatOptions {
  /** Campaign's preference; SI where it is silent. */
  prefer?: UnitPreference
  /** A unit for this one number, before the preference. */
  unit?: string
  digits?: number
  /** A difference or a width: the zero of a scale does not count. */
  difference?: boolean
  /** Expanded uncertainty in SI: the value is then rounded to two digits of it, and it is shown. */
  U?: number | null
}

const unitLabel = (unit: string): string => (unit === '1' ? '' : THIN_SPACE + unit)

/** Moduli beside strengths: a pressure of 58000 MPa is read as 58 GPa, one of 0.007 MPa as 7 kPa. */
const NEXT_LARGER: Record<string, string> = {
  kPa: 'MPa',
  MPa: 'GPa',
  N: 'kN',
  'N·m': 'kN·m',
  mm: 'm',
  Hz: 'kHz',
  ohm: 'kohm',
  µε: '%',
}
const NEXT_SMALLER: Record<string, string> = {
  MPa: 'kPa',
  kPa: 'Pa',
  kN: 'N',
  'm/s': 'mm/s',
  s: 'ms',
  ms: 'µs',
  'm²': 'mm²',
}
const LARGE: Record<string, number> = { µε: 50_000 }
const USUALLY_LARGE = 10_000
const SMALL = { MPa: 1, kPa: 0.1, kN: 0.1, 'm/s': 0.01, s: 0.01, ms: 1, 'm²': 0.01 } as Record<string, number>

/** The preferred unit, or the next larger or smaller where a number of this size would read badly in it. */
export function readableUnit(si: number, kind: Kind, o: FormatOptions): string {
  const unit = preferredUnit(kind, o)
  if (o.unit || !Number.isFinite(si)) return unit
  const size = (u: string) => Math.abs(inUnit(si, kind, u))
  if (NEXT_LARGER[unit] && size(unit) >= (LARGE[unit] ?? USUALLY_LARGE)) return NEXT_LARGER[unit]
  let shown = unit
  while (NEXT_SMALLER[shown] && size(shown) > 0 && size(shown) < SMALL[shown]!) shown = NEXT_SMALLER[shown]!
  return shown
}

/**
 * One writing for a whole column: as many decimals as show the largest with `digits` significant digits, so that
 * small values beside it do not pretend to more.
 */
export function columnFormatter(
  values: readonly (number | null)[],
  kind: Kind,
  o: FormatOptions = {},
): (si: number | null) => string {
  const unit = readableUnit(
    values.reduce<number>((m, v) => (v !== null && Math.abs(v) > Math.abs(m) ? v : m), 0),
    kind,
    o,
  )
  const largest = values.reduce<number>((m, v) => Math.max(m, Math.abs(v === null ? 0 : inUnit(v, kind, unit))), 0)
  const decimals = decimalsFor(largest, o.digits ?? 4)
  return si =>
    si === null || !Number.isFinite(si)
      ? '–'
      : tidy(dropMinusZero(inUnit(si, kind, unit).toFixed(decimals))) + unitLabel(unit)
}

const dropMinusZero = (text: string): string => (Number(text) === 0 ? text.replace('-', '') : text)

export const preferredUnit = (kind: Kind, o: FormatOptions = {}): string => o.unit ?? o.prefer?.[kind] ?? KINDS[kind].si

/** Value of a difference or a width (°C shifts do not apply) in the preferred unit. */
export function inUnit(si: number, kind: Kind, unit: string): number {
  return fromSi(si, unitFor(unit, kind))
}

/** SI of a number in a unit: the way back from `inUnit`. */
export const fromUnit = (value: number, kind: Kind, unit: string): number => toSi(value, unitFor(unit, kind))

/**
 * A quantity as people read it: preferred unit, sensible digits, with its expanded uncertainty when known.
 *
 * @example formatQuantity(4321.7, 'force', { prefer: METRIC, U: 38 }) // '4.322 ± 0.038 kN'
 */
export function formatQuantity(si: number | null | undefined, kind: Kind, o: FormatOptions = {}): string {
  if (si === null || si === undefined || !Number.isFinite(si)) return '–'
  const unit = readableUnit(si, kind, o)
  const label = unitLabel(unit)
  const { multiply, divide } = unitFor(unit, kind)
  const value = o.difference ? (si * divide) / multiply : inUnit(si, kind, unit)
  if (!Number.isFinite(value)) return '–'
  if (o.U === undefined || o.U === null || !(o.U > 0)) return formatNumber(value, o.digits ?? 4) + label
  const U = (o.U * divide) / multiply
  const decimals = decimalsFor(U, 2)
  return `${tidy(value.toFixed(decimals))} ±${THIN_SPACE}${U.toFixed(decimals)}${label}`
}
