import { HypometError, isHypometError } from '../error'

/**
 * How numbers are written: 1,234.5 or 1.234,5. A separator before exactly three digits and no other sign is a
 * thousands' separator under one and a decimal one under the other.
 */
export type NumberStyle = 'point' | 'comma'

export interface ReadNumber {
  value: number
  /** What follows it. */
  rest: string
}

const SIGN = /^[+\-−–]?/
/** Digits with separators between them: blanks and apostrophes only before groups of three. */
const BODY = /^(?:\d[\d.,]*(?:[ '’\u00a0\u2009\u202f]\d{3}(?!\d)[\d.,]*)*|[.,]\d+)/
const EXPONENT = /^(?:[eE][+\-−]?\d+|\s?(?:[×·]\s?10\^?|[x*]\s?10\^)([+\-−]?\d+))/
const GROUPING = /[ '’\u00a0\u2009\u202f]/g

/**
 * Reads a number as people write it: 1 234.5, 1,234.5, 1.234,5, 12’345, 3,2, 1e-3, 4·10^3. Where it may be two numbers
 * it is not taken: without a style, a comma before exactly three digits.
 *
 * @returns null where the text does not begin with a number
 * @throws HypometError `number-ambiguous` with both readings
 * @example readNumber('1,234.5 N') // { value: 1234.5, rest: ' N' }
 */
export function readNumber(text: string, style?: NumberStyle): ReadNumber | null {
  const from = text.trimStart()
  const sign = SIGN.exec(from)![0]
  const afterSign = from.slice(sign.length).replace(/^ (?=[\d.,])/, '')
  const body = BODY.exec(afterSign)?.[0].replace(/[.,]+$/, end => (end.length > 1 ? end : ''))
  if (!body) return null
  let rest = afterSign.slice(body.length)
  // A point at the end of a number is one: “5.” is five.
  if (/^[.,](?!\d)/.test(rest)) rest = rest.slice(1)
  const power = EXPONENT.exec(rest)
  const exponent = power ? (power[1] ?? power[0].slice(1)) : ''
  const plain = plainDigits(body, text, style, exponent !== '')
  if (plain === null) return null
  const value = Number(
    `${sign === '' || sign === '+' ? '' : '-'}${plain}${exponent ? `e${exponent.replace('−', '-')}` : ''}`,
  )
  return Number.isFinite(value) ? { value, rest: power ? rest.slice(power[0].length) : rest } : null
}

/**
 * The style that numbers of one sheet show: by those that can be read one way only. Undefined where none does, or where
 * they contradict one another.
 *
 * @example styleOf(['1,234', '12,5']) // 'comma'
 */
export function styleOf(texts: Iterable<string>): NumberStyle | undefined {
  const seen = new Set<NumberStyle>()
  for (const text of texts) {
    const digits = /[\d.,]*[.,][\d.,]*/.exec(text)?.[0]
    if (!digits || Number.isNaN(numberOf(digits))) continue
    const last = digits.lastIndexOf('.') > digits.lastIndexOf(',') ? '.' : ','
    const isGroup = count(digits, last) > 1
    if (!isGroup && /^[1-9]\d{0,2}[.,]\d{3}$/.test(digits)) continue
    seen.add((last === '.') !== isGroup ? 'point' : 'comma')
  }
  return seen.size === 1 ? [...seen][0] : undefined
}

/** A number as a field shows it, so that it is read back as it is: `12,5` where commas stand before decimals. */
export const writeNumber = (value: number | string, style?: NumberStyle): string =>
  style === 'comma' ? String(value).replace('.', ',') : String(value)

/** A text that is one number and nothing else; NaN where it is none, or may be two. */
export function numberOf(text: string, style?: NumberStyle): number {
  try {
    const read = readNumber(text, style)
    return read && read.rest.trim() === '' ? read.value : NaN
  } catch (e) {
    if (isHypometError(e)) return NaN
    throw e
  }
}

/** Whether a text begins with a number that may be two. */
export function isOpenNumber(text: string): boolean {
  try {
    readNumber(text)
    return false
  } catch (e) {
    if (isHypometError(e) && e.code === 'number-ambiguous') return true
    throw e
  }
}

/** Why a text is not one number, in a sentence; empty where it is. */
export function whyNoNumber(text: string, style?: NumberStyle): string {
  try {
    return readNumber(text, style)?.rest.trim() === '' ? '' : `“${text.trim()}” is not a number.`
  } catch (e) {
    if (isHypometError(e)) return e.message
    throw e
  }
}

/** Digits with a point for the decimals; null where separators do not make one number. */
function plainDigits(body: string, text: string, style: NumberStyle | undefined, hasExponent: boolean): string | null {
  const isSpaced = GROUPING.test(body)
  const digits = body.replace(GROUPING, '')
  const [points, commas] = [count(digits, '.'), count(digits, ',')]
  if (points > 0 && commas > 0) {
    const decimal = digits.lastIndexOf('.') > digits.lastIndexOf(',') ? '.' : ','
    const group = decimal === '.' ? ',' : '.'
    if (count(digits, decimal) > 1 || isSpaced) return null
    const [whole, decimals] = digits.split(decimal) as [string, string]
    return isGrouped(whole, group) ? `${whole.replaceAll(group, '')}.${decimals}` : null
  }
  const separator = points > 0 ? '.' : ','
  const n = points + commas
  if (n === 0) return digits
  if (n > 1) return !isSpaced && isGrouped(digits, separator) ? digits.replaceAll(separator, '') : null
  const [whole, decimals] = digits.split(separator) as [string, string]
  const asDecimal = `${whole || '0'}.${decimals}`
  const couldGroup = decimals.length === 3 && /^[1-9]\d{0,2}$/.test(whole) && !isSpaced && !hasExponent
  if (!couldGroup) return asDecimal
  if (style) return (style === 'point') === (separator === '.') ? asDecimal : whole + decimals
  // What the software writes itself has a point before its decimals.
  if (separator === '.') return asDecimal
  throw new HypometError(
    'number-ambiguous',
    `“${text.trim()}” may be ${whole}${decimals} or ${asDecimal}: write ${whole}${decimals}, or ${asDecimal}.`,
  )
}

const count = (text: string, sign: string): number => text.split(sign).length - 1

/** Groups of three after the first of one to three; or of two before the last three, as they are counted in India. */
function isGrouped(digits: string, separator: string): boolean {
  const [first, ...groups] = digits.split(separator) as [string, ...string[]]
  if (!/^\d{1,3}$/.test(first) || groups.some(g => !/^\d+$/.test(g))) return false
  const last = groups.at(-1)!
  const inner = groups.slice(0, -1)
  return (
    last.length === 3 && (inner.every(g => g.length === 3) || (first.length < 3 && inner.every(g => g.length === 2)))
  )
}
