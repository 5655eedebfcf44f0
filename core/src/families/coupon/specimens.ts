import { HypometError } from '../../error'
import type { Table } from '../../method/table'
import { hasGap } from '../../signal/gaps'
import { indexOfMax } from '../../signal/rising'
import type { CouponSettings } from './settings'

export interface CouponSpecimen {
  specimen: string
  /** Null where no force was read. */
  strength: number | null
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
    ...(channels['ultimateForce'] ? fromRow(channels, at, s) : fromCurve(channels, at, s)),
  }))
}

/** The first of some rows in which something was read. */
const firstRead = (y: Float64Array | undefined, rows: readonly number[]): number | undefined => {
  const row = rows.find(i => y !== undefined && !Number.isNaN(y[i]!))
  return row === undefined ? undefined : y![row]!
}

/** What a force is divided by, m²; for flexure w·t²/(1.5·span). By a specimen's first reading of each. */
function section(channels: Table['channels'], rows: readonly number[], s: CouponSettings): number {
  const needed = (role: 'width' | 'thickness') => {
    const v = firstRead(channels[role], rows)
    if (v !== undefined && v > 0) return v
    throw new HypometError(
      channels[role] === undefined ? 'missing-channel' : 'data-range',
      `Every specimen needs a ${role} above zero.`,
      { path: `channels.${role}` },
    )
  }
  const t = needed('thickness')
  switch (s.kind) {
    case 'bearing':
      return s.diameter! * t
    case 'flexure':
      return (2 * needed('width') * t * t) / (3 * s.span!)
    case 'inPlaneShear':
      return 2 * needed('width') * t
    default:
      return needed('width') * t
  }
}

type Values = Omit<CouponSpecimen, 'specimen' | 'failure'>

function fromRow(channels: Table['channels'], rows: number[], s: CouponSettings): Values {
  const A = section(channels, rows, s)
  const [low, high] = ['forceLow', 'forceHigh'].map(role => firstRead(channels[role], rows))
  const modulus = low === undefined || high === undefined ? null : Math.abs(high - low) / A / (s.chord[1] - s.chord[0])
  const force = firstRead(channels['ultimateForce'], rows)
  const strength = force === undefined ? null : Math.abs(force) / A
  return {
    strength,
    modulus,
    ultimate: s.kind === 'bearing' ? strength : null,
    hasYield: true,
    strain: new Float64Array(0),
    stress: new Float64Array(0),
  }
}

function fromCurve(channels: Table['channels'], all: number[], s: CouponSettings): Values {
  const A = section(channels, all, s)
  const rows = all.filter(i => !Number.isNaN(channels['force']![i]!))
  if (rows.length === 0)
    return { strength: null, modulus: null, ultimate: null, hasYield: true, strain: NOTHING, stress: NOTHING }
  const stress = upright(Float64Array.from(rows, i => channels['force']![i]! / A))
  const peak = indexOfMax(stress)
  const ultimate = stress[peak]!
  const { e, σ } = curveOf(strainOf(channels, rows, firstRead(channels['thickness'], all)!, s), stress, peak)
  const chord = s.chord.map(level => crossingOf(e, σ, level))
  const [a, b] = chord
  const modulus = a && b ? (b.stress - a.stress) / (s.chord[1] - s.chord[0]) : null
  const curve = { modulus, strain: e, stress: σ }
  if (s.kind !== 'bearing') return { ...curve, strength: ultimate, ultimate: null, hasYield: true }
  const offset =
    a && b && modulus !== null
      ? offsetStrength(e, σ, b.index, x => a.stress + modulus * (x - s.chord[0] - s.offset))
      : null
  return { ...curve, strength: offset ?? ultimate, ultimate, hasYield: offset !== null }
}

const NOTHING = new Float64Array(0)

/** Rows up to the peak that have a strain as well. */
function curveOf(
  strain: Float64Array | null,
  stress: Float64Array,
  peak: number,
): { e: Float64Array; σ: Float64Array } {
  if (!strain) return { e: NOTHING, σ: stress.subarray(0, peak + 1) }
  const [e, σ] = [strain.subarray(0, peak + 1), stress.subarray(0, peak + 1)]
  if (!hasGap(e)) return { e, σ }
  return { e: e.filter(v => !Number.isNaN(v)), σ: σ.filter((_, i) => !Number.isNaN(e[i]!)) }
}

/** Turned so that its largest size is positive. */
function upright(y: Float64Array): Float64Array {
  // A gap is not larger than anything.
  const largest = y.reduce((m, v) => (Math.abs(v) > Math.abs(m) ? v : m), 0)
  return largest < 0 ? y.map(v => -v) : y
}

function strainOf(
  channels: Table['channels'],
  rows: number[],
  thickness: number,
  s: CouponSettings,
): Float64Array | null {
  const { strain, strainTransverse, displacement } = channels
  const of = (f: (i: number) => number) => upright(Float64Array.from(rows, f))
  switch (s.kind) {
    case 'inPlaneShear':
      return strain && strainTransverse ? of(i => strain[i]! - strainTransverse[i]!) : null
    case 'bearing':
      return displacement ? of(i => displacement[i]! / s.diameter!) : null
    case 'flexure':
      return displacement ? of(i => (6 * thickness * displacement[i]!) / s.span! ** 2) : null
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
