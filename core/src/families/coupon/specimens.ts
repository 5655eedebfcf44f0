import { HypometError } from '../../error'
import type { Table } from '../../method/table'
import { indexOfMax } from '../../signal/rising'
import type { CouponSettings } from './settings'

export interface CouponSpecimen {
  specimen: string
  strength: number
  modulus: number | null
  /** Peak stress of a bearing specimen, whose strength is that at the offset. */
  ultimate: number | null
  failure: string | null
  hasYield: boolean
  /** Up to the peak; empty where only the ends were read. */
  strain: Float64Array
  stress: Float64Array
}

/**
 * Specimens of the rows, in the order in which they first come. @throws HypometError `missing-channel`, `data-range`
 */
export function specimensOf({ channels, text = {} }: Table, s: CouponSettings): CouponSpecimen[] {
  const rows = new Map<string, number[]>()
  text['specimen']!.forEach((name, i) => rows.set(name, [...(rows.get(name) ?? []), i]))
  if (!channels['ultimateForce'] && !channels['force'])
    throw new HypometError(
      'missing-channel',
      'A force is needed: the ultimate one of each specimen, or its whole record.',
      { path: 'channels.force' },
    )
  return [...rows].map(([specimen, at]) => ({
    specimen,
    failure: text['failure']?.[at[0]!] || null,
    ...(channels['ultimateForce'] ? fromRow(channels, at[0]!, s) : fromCurve(channels, at, s)),
  }))
}

/** What a force is divided by, m²; for flexure w·t²/(1.5·span). */
function section(channels: Table['channels'], row: number, s: CouponSettings): number {
  const [width, thickness] = [channels['width']?.[row], channels['thickness']![row]!]
  const needed = (v: number | undefined, role: string) => {
    if (v !== undefined && v > 0) return v
    throw new HypometError(
      v === undefined ? 'missing-channel' : 'data-range',
      `Every specimen needs a ${role} above zero.`,
      { path: `channels.${role}` },
    )
  }
  const t = needed(thickness, 'thickness')
  switch (s.kind) {
    case 'bearing':
      return s.diameter! * t
    case 'flexure':
      return (2 * needed(width, 'width') * t * t) / (3 * s.span!)
    case 'inPlaneShear':
      return 2 * needed(width, 'width') * t
    default:
      return needed(width, 'width') * t
  }
}

type Values = Omit<CouponSpecimen, 'specimen' | 'failure'>

function fromRow(channels: Table['channels'], row: number, s: CouponSettings): Values {
  const A = section(channels, row, s)
  const [low, high] = [channels['forceLow']?.[row], channels['forceHigh']?.[row]]
  const modulus = low === undefined || high === undefined ? null : Math.abs(high - low) / A / (s.chord[1] - s.chord[0])
  const strength = Math.abs(channels['ultimateForce']![row]!) / A
  return {
    strength,
    modulus,
    ultimate: s.kind === 'bearing' ? strength : null,
    hasYield: true,
    strain: new Float64Array(0),
    stress: new Float64Array(0),
  }
}

function fromCurve(channels: Table['channels'], rows: number[], s: CouponSettings): Values {
  const first = rows[0]!
  const A = section(channels, first, s)
  const stress = upright(Float64Array.from(rows, i => channels['force']![i]! / A))
  const strain = strainOf(channels, rows, s)
  const peak = indexOfMax(stress)
  const [e, σ] = [strain ? strain.subarray(0, peak + 1) : new Float64Array(0), stress.subarray(0, peak + 1)]
  const chord = s.chord.map(level => crossingOf(e, σ, level))
  const [a, b] = chord
  const modulus = a && b ? (b.stress - a.stress) / (s.chord[1] - s.chord[0]) : null
  const ultimate = stress[peak]!
  if (s.kind !== 'bearing') return { strength: ultimate, modulus, ultimate: null, hasYield: true, strain: e, stress: σ }
  const offset =
    a && b && modulus !== null
      ? offsetStrength(e, σ, b.index, x => a.stress + modulus * (x - s.chord[0] - s.offset))
      : null
  return { strength: offset ?? ultimate, modulus, ultimate, hasYield: offset !== null, strain: e, stress: σ }
}

/** Turned so that its largest size is positive. */
function upright(y: Float64Array): Float64Array {
  const largest = y.reduce((m, v) => (Math.abs(v) > Math.abs(m) ? v : m), 0)
  return largest < 0 ? y.map(v => -v) : y
}

function strainOf(channels: Table['channels'], rows: number[], s: CouponSettings): Float64Array | null {
  const { strain, strainTransverse, displacement } = channels
  const of = (f: (i: number) => number) => upright(Float64Array.from(rows, f))
  switch (s.kind) {
    case 'inPlaneShear':
      return strain && strainTransverse ? of(i => strain[i]! - strainTransverse[i]!) : null
    case 'bearing':
      return displacement ? of(i => displacement[i]! / s.diameter!) : null
    case 'flexure':
      return displacement ? of(i => (6 * channels['thickness']![rows[0]!]! * displacement[i]!) / s.span! ** 2) : null
    default:
      return strain ? of(i => strain[i]!) : null
  }
}

/** Where the strain first rises to a level, with the stress there. */
function crossingOf(
  strain: Float64Array,
  stress: Float64Array,
  level: number,
): { index: number; stress: number } | null {
  for (let i = 0; i + 1 < strain.length; i++) {
    if (!(strain[i]! <= level && strain[i + 1]! >= level && strain[i + 1]! > strain[i]!)) continue
    return {
      index: i,
      stress: stress[i]! + ((level - strain[i]!) / (strain[i + 1]! - strain[i]!)) * (stress[i + 1]! - stress[i]!),
    }
  }
  return null
}

/** Stress where the curve first falls below a line, past an index; null where it never does. */
function offsetStrength(
  strain: Float64Array,
  stress: Float64Array,
  from: number,
  line: (strain: number) => number,
): number | null {
  for (let i = from; i + 1 < strain.length; i++) {
    const [over, under] = [stress[i]! - line(strain[i]!), stress[i + 1]! - line(strain[i + 1]!)]
    if (over > 0 && under <= 0) return stress[i]! + (over / (over - under)) * (stress[i + 1]! - stress[i]!)
  }
  return null
}
