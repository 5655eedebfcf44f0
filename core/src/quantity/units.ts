import { DIMENSIONLESS, dimension, multiply, power, type Dimension } from './dimension'
import { lookUp } from './lookUp'

/**
 * A unit as SI = (value + shift) · multiply / divide. Numerator and denominator stay apart, so that 3.2 mm becomes the
 * double nearest to 0.0032 and comes back as 3.2.
 */
export interface Unit {
  multiply: number
  divide: number
  shift: number
  dimension: Dimension
}

const unit = (dimension: Dimension, multiply = 1, divide = 1, shift = 0): Unit => ({
  ...reduced(multiply, divide),
  shift,
  dimension,
})

/** Whole factors without what they share: a kilogram is 1/1 and not 1000/1000, which would round. */
function reduced(multiply: number, divide: number): Pick<Unit, 'multiply' | 'divide'> {
  if (!Number.isSafeInteger(multiply) || !Number.isSafeInteger(divide)) return { multiply, divide }
  let [a, b] = [multiply, divide]
  while (b !== 0) [a, b] = [b, a % b]
  return { multiply: multiply / a, divide: divide / a }
}

const force = dimension({ kg: 1, m: 1, s: -2 })
const pressure = dimension({ kg: 1, m: -1, s: -2 })
const energy = dimension({ kg: 1, m: 2, s: -2 })
const velocity = dimension({ m: 1, s: -1 })
const volumeFlow = dimension({ m: 3, s: -1 })
const volt = dimension({ kg: 1, m: 2, s: -3, A: -1 })
const length = dimension({ m: 1 })
const mass = dimension({ kg: 1 })
const time = dimension({ s: 1 })
const temperature = dimension({ K: 1 })
const angle = dimension({ rad: 1 })

/** Standard acceleration of free fall, m/s². CGPM 1901. */
export const STANDARD_GRAVITY = 9.80665

/** Units that take SI prefixes. */
const PREFIXABLE: Record<string, Unit> = {
  N: unit(force),
  m: unit(length),
  g: unit(mass, 1, 1000),
  s: unit(time),
  Pa: unit(pressure),
  J: unit(energy),
  W: unit(dimension({ kg: 1, m: 2, s: -3 })),
  V: unit(volt),
  A: unit(dimension({ A: 1 })),
  K: unit(temperature),
  ohm: unit(dimension({ kg: 1, m: 2, s: -3, A: -2 })),
  F: unit(dimension({ kg: -1, m: -2, s: 4, A: 2 })),
  H: unit(dimension({ kg: 1, m: 2, s: -2, A: -2 })),
  S: unit(dimension({ kg: -1, m: -2, s: 3, A: 2 })),
  Hz: unit(dimension({ s: -1 })),
  rad: unit(angle),
  bar: unit(pressure, 1e5),
  L: unit(dimension({ m: 3 }), 1, 1000),
  B: unit(dimension({ B: 1 })),
  ε: unit(DIMENSIONLESS),
}

const PREFIXES: Record<string, readonly [multiply: number, divide: number]> = {
  T: [1e12, 1],
  G: [1e9, 1],
  M: [1e6, 1],
  k: [1e3, 1],
  h: [100, 1],
  d: [1, 10],
  c: [1, 100],
  m: [1, 1e3],
  µ: [1, 1e6],
  n: [1, 1e9],
  p: [1, 1e12],
}

/**
 * Units that stand alone. Exact by definition (NIST SP 811, appendix B; inHg at 0 °C and inH2O at 4 °C conventional);
 * psi = lbf/in² and in·lbf = lbf·in correctly rounded.
 */
const WHOLE: Record<string, Unit> = {
  '1': unit(DIMENSIONLESS),
  '%': unit(DIMENSIONLESS, 1, 100),
  oct: unit(DIMENSIONLESS),
  dB: unit(dimension({ dB: 1 })),
  lbf: unit(force, 4.4482216152605),
  kip: unit(force, 4448.2216152605),
  kgf: unit(force, 9.80665),
  in: unit(length, 254, 1e4),
  ft: unit(length, 3048, 1e4),
  lb: unit(mass, 0.45359237),
  t: unit(mass, 1000),
  min: unit(time, 60),
  h: unit(time, 3600),
  d: unit(time, 86400),
  psi: unit(pressure, 6894.757293168361),
  ksi: unit(pressure, 6894.757293168361 * 1e3),
  Msi: unit(pressure, 6894.757293168361 * 1e6),
  inHg: unit(pressure, 3386.389),
  inH2O: unit(pressure, 249.08891),
  mmH2O: unit(pressure, 9.80665),
  deg: unit(angle, Math.PI, 180),
  rpm: unit(dimension({ rad: 1, s: -1 }), Math.PI, 30),
  kn: unit(velocity, 1852, 3600),
  cfm: unit(volumeFlow, 4.719474432e-4),
  'in·lbf': unit(energy, 0.1129848290276167),
  'ft·lbf': unit(energy, 0.3048 * 4.4482216152605),
  degC: unit(temperature, 1, 1, 273.15),
  degF: unit(temperature, 5, 9, 459.67),
}

/** Other spellings of the same unit, after the signs have been normalised. */
const SPELLINGS: Record<string, string> = {
  'in-lbf': 'in·lbf',
  'lbf·in': 'in·lbf',
  'lbf-in': 'in·lbf',
  'ft-lbf': 'ft·lbf',
  'lbf·ft': 'ft·lbf',
  'lbf-ft': 'ft·lbf',
  Nm: 'N·m',
  kNm: 'kN·m',
  Nmm: 'N·mm',
  RPM: 'rpm',
  CFM: 'cfm',
  '°': 'deg',
  '°C': 'degC',
  '°F': 'degF',
  'kg/cm^2': 'kgf/cm^2',
  ue: 'µε',
  l: 'L',
  ml: 'mL',
}

const SUPERSCRIPTS: Record<string, string> = { '²': '^2', '³': '^3', '⁴': '^4', '⁻': '^-', '¹': '1' }

const normalise = (text: string): string =>
  text
    .trim()
    .replace(/μ/g, 'µ')
    .replace(/[Ωω]|Ohm/g, 'ohm')
    .replace(/[*⋅×]/g, '·')
    .replace(/[²³⁴⁻¹]/g, c => SUPERSCRIPTS[c]!)
    .replace(/([A-Za-zµε)])(-?[2-4])(?=$|[·/)])/g, '$1^$2')

/** Whether a bare `g` means the gram or standard gravity; decided by the dimension that is wanted. */
export type MeaningOfG = 'gram' | 'gravity'

/** The unit that a text names, or null when nobody knows it. Case matters. */
export function findUnit(text: string, g: MeaningOfG = 'gram'): Unit | null {
  let name = normalise(text)
  name = lookUp(SPELLINGS, name) ?? name
  return lookUp(WHOLE, name) ?? parseProduct(name, g)
}

/** `a·b/c·d`, with powers and one level of parentheses: everything after a stroke divides, one factor at a time. */
function parseProduct(name: string, g: MeaningOfG): Unit | null {
  let result = unit(DIMENSIONLESS)
  const factor = /([·/]?)(?:\(([^()]+)\)|([^·/()^]+))(?:\^(-?\d))?/y
  let at = 0
  while (at < name.length) {
    factor.lastIndex = at
    const match = factor.exec(name)
    if (!match || at > 0 !== (match[1] !== '')) return null
    const [whole, sign, group, symbol, exponent] = match
    const base = group === undefined ? findSymbol(symbol!, g) : parseProduct(group, g)
    if (!base || base.shift !== 0) return null
    result = combine(result, base, (sign === '/' ? -1 : 1) * Number(exponent ?? 1))
    at += whole.length
  }
  return at === 0 ? null : result
}

function combine(a: Unit, b: Unit, n: number): Unit {
  const [up, down] = n > 0 ? [b.multiply, b.divide] : [b.divide, b.multiply]
  const k = Math.abs(n)
  return unit(multiply(a.dimension, power(b.dimension, n)), a.multiply * up ** k, a.divide * down ** k)
}

function findSymbol(symbol: string, g: MeaningOfG): Unit | null {
  if (symbol === 'g' && g === 'gravity') return unit(dimension({ m: 1, s: -2 }), STANDARD_GRAVITY)
  const name = lookUp(SPELLINGS, symbol) ?? symbol
  const whole = lookUp(WHOLE, name) ?? lookUp(PREFIXABLE, name)
  if (whole) return whole
  const prefix = lookUp(PREFIXES, name[0] === 'u' ? 'µ' : (name[0] ?? ''))
  const base = lookUp(PREFIXABLE, name.slice(1))
  return prefix && base ? unit(base.dimension, base.multiply * prefix[0], base.divide * prefix[1]) : null
}
