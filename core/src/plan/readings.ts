import { HypometError, isHypometError } from '../error'
import {
  formatNumber,
  formatQuantity,
  METRIC,
  parseQuantity,
  quantityToSi,
  type Kind,
  type Quantity,
  type UnitPreference,
} from '../quantity/index'

/** What a reading typed at the rig is held against. */
export type ReadingCheck = 'resistance' | 'insulation' | 'check-value' | 'zero-counts' | 'leak'

/** What counts as good, SI. */
export interface ReadyLimits {
  /** ohm of a gauge, and the share it may be off. */
  gaugeResistance: number
  resistanceTolerance: number
  /** ohm at least. */
  insulation: number
  /** Share that a shunt or a known load may read off. */
  checkTolerance: number
  /** Share of the converter's range that zero may be off, and its bits. */
  zeroTolerance: number
  bits: number
  /** Share an hour that may leak away, 1/s. */
  leak: number
}

export interface ReadingAsked {
  check: ReadingCheck
  /** Kind of what is typed; counts are plain numbers. */
  kind: Kind
  /** What it ought to read, for a shunt or a known load; null where the plan does not say. */
  expected: number | null
}

export interface JudgedReading {
  entered: Quantity
  good: boolean
  /** “1742 µε, 0.1 % off” */
  words: string
}

export const countsAllowed = ({ zeroTolerance, bits }: ReadyLimits): number =>
  Math.floor(zeroTolerance * 2 ** (bits - 1))

/** What a reading must be, in words, beside the field that takes it. */
export function wantedReading(
  { check, kind, expected }: ReadingAsked,
  l: ReadyLimits,
  prefer: UnitPreference = METRIC,
): string {
  switch (check) {
    case 'resistance':
      return `${formatNumber(l.gaugeResistance, 4)}\u202fohm ± ${formatNumber(100 * l.resistanceTolerance, 2)} %`
    case 'insulation':
      return `≥ ${formatNumber(l.insulation / 1e6, 3)}\u202fMohm`
    case 'zero-counts':
      return `within ±${countsAllowed(l)} counts`
    case 'leak':
      return `≤ ${formatNumber(100 * 3600 * l.leak, 2)} %/h`
    case 'check-value':
      return expected === null
        ? 'no check value in the plan'
        : `${formatQuantity(expected, kind, { prefer })} ± ${formatNumber(100 * l.checkTolerance, 2)} %`
  }
}

const UNIT: Record<ReadingCheck, string | null> = {
  resistance: 'ohm',
  insulation: 'Mohm',
  'zero-counts': '1',
  leak: '%/h',
  'check-value': null,
}

export const kindOfReading = (check: ReadingCheck, ofChannel: Kind): Kind =>
  check === 'resistance' || check === 'insulation'
    ? 'resistance'
    : check === 'zero-counts'
      ? 'ratio'
      : check === 'leak'
        ? 'sweepRate'
        : ofChannel

/**
 * Judges a reading as it was typed: “349.8”, “2 Gohm”, “-14”, “1742 µε”.
 *
 * @throws HypometError `not-a-number`, `unit-unknown`, `unit-dimension`, `no-check-value` at `reading`
 */
export function judgeReading(
  text: string,
  asked: ReadingAsked,
  l: ReadyLimits,
  prefer: UnitPreference = METRIC,
): JudgedReading {
  const { check, kind, expected } = asked
  try {
    const entered = parseQuantity(text, kind, UNIT[check] ?? prefer[kind], prefer.numbers)
    const si = quantityToSi(entered, kind)
    const shown = `${entered.value}${entered.unit === '1' ? '' : `\u202f${entered.unit}`}`
    const off = (nominal: number, tolerance: number) => {
      const share = nominal === 0 ? Infinity : Math.abs(si / nominal - 1)
      return { entered, good: share <= tolerance, words: `${shown}, ${formatNumber(100 * share, 2)} % off` }
    }
    if (check === 'resistance') return off(l.gaugeResistance, l.resistanceTolerance)
    if (check === 'insulation') return { entered, good: si >= l.insulation, words: shown }
    if (check === 'zero-counts') return { entered, good: Math.abs(si) <= countsAllowed(l), words: `${shown} counts` }
    if (check === 'leak') return { entered, good: si <= l.leak, words: shown }
    if (expected === null)
      throw new HypometError(
        'no-check-value',
        'The plan does not say what the shunt or the known load must read; enter it there first.',
      )
    return off(expected, l.checkTolerance)
  } catch (e) {
    throw isHypometError(e) ? e.at({ path: 'reading' }) : e
  }
}
