import { fromSi, toSi } from '../quantity/convert'
import type { Unit } from '../quantity/index'
import type { NumberStyle } from '../quantity/number'
import { cellNumber } from './cells'

/** A clock that counts from 1970 begins years after any other: so many seconds. */
const YEARS = 1e8

/**
 * The full second of the first stamp of a clock that counts from 1970, in its own unit; 0 for any other clock.
 *
 * @example epochOf('1764511200250', findUnit('ms')!) // 1764511200000
 */
export function epochOf(first: string | number, unit: Unit, style?: NumberStyle): number {
  const began = toSi(typeof first === 'number' ? first : cellNumber(first, style), unit)
  return began >= YEARS ? Math.round(fromSi(Math.floor(began), unit)) : 0
}

/** What a record's clock counts from, in words. */
export const epochNote = (epoch: number, unit: Unit): { code: string; message: string } => ({
  code: 'clock-stamps',
  message: `Time counts from the full second of its first stamp, ${dateOf(toSi(epoch, unit))} UTC.`,
})

const dateOf = (seconds: number): string => new Date(1000 * seconds).toISOString().slice(0, 19)

const BY_SIZE: readonly (readonly [from: number, unit: string])[] = [
  [1e17, 'ns'],
  [1e14, 'µs'],
  [1e11, 'ms'],
  [YEARS, 's'],
]

/** The unit of a column of whole numbers that can only be a clock counted from 1970; null where it is none. */
export function epochUnit(name: string, samples: readonly string[]): string | null {
  if (!/time|stamp|epoch|date|zeit|uhr|^t$/i.test(name) || samples.length === 0) return null
  const first = Number(samples[0])
  if (!samples.every(s => /^\d{9,20}(\.\d+)?$/.test(s.trim()))) return null
  return BY_SIZE.find(([from]) => first >= from)?.[1] ?? null
}
