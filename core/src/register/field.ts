import { HypometError, isHypometError } from '../error'
import { isDay } from '../days'
import type { ErrorCode } from '../errorCodes'
import { quantity, type QuantityInput } from '../method/settings'
import {
  formatQuantity,
  numberOf,
  writeNumber,
  parseAnyQuantity,
  parseQuantity,
  preferredUnit,
  readMoney,
  unitFor,
  type Kind,
  whyNoNumber,
  type UnitPreference,
} from '../quantity/index'
import type { FamilyOutline } from '../method/familyOutline'
import { withOwnResults, type DeclaredOwn } from '../own/declared'
import { findUnit } from '../quantity/units'

/** A row of a register as it is kept: typed values by key, quantities as they were entered. */
export type Row = Record<string, unknown>

/** Something that a field may point to: other rows, by what people call them. */
export interface RefOption {
  id: number
  label: string
  /** Kind of test of the article behind it. */
  family?: string
  /** Results that the article has of its own. */
  own?: readonly DeclaredOwn[]
  /** Its ends, sections, seams and parts. */
  places?: readonly string[]
  articleId?: number
  revisionId?: number
}

export interface RegisterContext {
  refs: Readonly<Record<string, readonly RefOption[]>>
  prefer: UnitPreference
  /** That amounts are in. */
  currency?: string | undefined
  /** Kinds of test that articles may be of. */
  families: readonly FamilyOutline[]
}

/** What is known of the kind of test of an article or a revision, with the article's own results. */
export const outlineIn = ({ families }: RegisterContext, of: RefOption | undefined): FamilyOutline | null =>
  withOwnResults(families.find(f => f.id === of?.family) ?? null, of?.own)

export interface Choice {
  value: string
  label: string
}

type Resolvable<T> = T | ((row: Row, context: RegisterContext) => T)

export type Field = {
  key: string
  title: string
  required?: boolean
  hint?: string
  /** Said once, when the row is made. */
  fixed?: boolean
  /** Left out of the table; the row's own page shows it. */
  aside?: boolean
  /** Further titles that files may give its column. */
  aliases?: string[]
  fallback?: unknown
} & (
  | { type: 'text' | 'long' | 'words' | 'date'; suggest?: Resolvable<string[]> }
  | { type: 'number'; min?: number; max?: number; whole?: boolean; money?: boolean }
  | { type: 'choice'; options: Resolvable<Choice[]> }
  /**
   * `any`: the unit says what it is. Null where the row does not say yet of what kind it is; `kindFrom` is the title of
   * the field that says it.
   */
  | {
      type: 'quantity'
      kind: Resolvable<Kind | 'any' | null>
      kindFrom?: string
      positive?: boolean
      min?: number
      unit?: string
      /** A half width: a share of a value in per cent, or as large as the value's kind has it. */
      band?: boolean
    }
  | { type: 'ref'; to: string }
  /** Kept as it is; whoever keeps the register checks it. */
  | { type: 'data' }
)

const resolve = <T>(t: Resolvable<T>, row: Row, context: RegisterContext): T =>
  typeof t === 'function' ? (t as (row: Row, context: RegisterContext) => T)(row, context) : t

export const optionsOf = (f: Field & { type: 'choice' }, row: Row, context: RegisterContext): Choice[] =>
  resolve(f.options, row, context)
export const kindOfField = (f: Field & { type: 'quantity' }, row: Row, context: RegisterContext): Kind | 'any' | null =>
  resolve(f.kind, row, context)
export const suggestionsOf = (f: Field, row: Row, context: RegisterContext): string[] =>
  'suggest' in f && f.suggest ? resolve(f.suggest, row, context) : []

const refused = (code: ErrorCode, message: string, key: string): HypometError =>
  new HypometError(code, message, { path: key })

/**
 * A cell as somebody typed or pasted it, as the value that is kept; null for an empty one.
 *
 * @throws HypometError with the field's key as its path
 * @example
 * readCell({ key: 'value', title: 'Value', type: 'quantity', kind: 'length' }, '14 mm', {}, context)
 * // { value: 14, unit: 'mm' }
 */
export function readCell(f: Field, text: string, row: Row, context: RegisterContext): unknown {
  const t = text.trim()
  if (t === '' || t === '–') return null
  switch (f.type) {
    case 'text':
    case 'long':
      return t
    case 'words':
      return t
        .split(/[;,\n]/)
        .map(w => w.trim())
        .filter(Boolean)
    case 'date':
      return readDate(t, f.key)
    case 'number': {
      const style = context.prefer.numbers
      if (f.money) return readAmount(f.key, t, row, context)
      const why = whyNoNumber(t, style)
      if (why) throw refused('not-a-number', why, f.key)
      return numberOf(t, style)
    }
    case 'choice': {
      const options = optionsOf(f, row, context)
      const found = options.find(o => same(o.label, t) || same(o.value, t))
      if (!found) throw refused('setting-range', `“${t}” is none of: ${listed(options.map(o => o.label))}.`, f.key)
      return found.value
    }
    case 'ref': {
      const found = (context.refs[f.to] ?? []).filter(o => same(o.label, t))
      if (found.length === 0) throw refused('unknown-reference', `There is no ${f.to} “${t}”.`, f.key)
      if (found.length > 1) throw refused('unknown-reference', `More than one ${f.to} is called “${t}”.`, f.key)
      return found[0]!.id
    }
    case 'quantity':
      return readQuantityCell(f, t, row, context)
    case 'data':
      try {
        return JSON.parse(t)
      } catch {
        throw refused('setting-type', 'This is not JSON.', f.key)
      }
  }
}

function readAmount(key: string, text: string, row: Row, context: RegisterContext): number {
  try {
    return readMoney(text, (row['currency'] as string | undefined) ?? context.currency, context.prefer.numbers)
  } catch (e) {
    throw isHypometError(e) ? e.at({ path: key }) : e
  }
}

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase()

function listed(words: string[]): string {
  const shown = words.slice(0, 8)
  return shown.join(', ') + (words.length > shown.length ? ', …' : '')
}

const chooseFirst = (f: Field & { type: 'quantity' }): string =>
  `Choose “${f.kindFrom ?? 'Kind'}” first: it says what ${f.title} measures.`

function readQuantityCell(
  f: Field & { type: 'quantity' },
  text: string,
  row: Row,
  context: RegisterContext,
): QuantityInput {
  const kind = kindOfField(f, row, context)
  if (kind === null) throw refused('missing-setting', chooseFirst(f), f.key)
  try {
    if (f.band && kind !== 'any') return readBand(text, kind, context.prefer)
    const value =
      kind === 'any'
        ? parseAnyQuantity(text, context.prefer.numbers)
        : parseQuantity(text, kind, f.unit ?? preferredUnit(kind, context), context.prefer.numbers)
    return typeof value === 'object' && value.unit === '1' ? value.value : value
  } catch (e) {
    throw isHypometError(e) ? e.at({ path: f.key }) : e
  }
}

/**
 * “± 3000 lbf” or “± 10 %”; a bare number may be either, and is asked about.
 *
 * @throws HypometError `band-unit`
 */
function readBand(text: string, kind: Kind, prefer: UnitPreference): QuantityInput {
  const bare = text.replace(/^\s*(?:±|\+\s*\/?\s*-)\s*/, '')
  const typed = parseAnyQuantity(bare, prefer.numbers)
  if (typeof typed === 'object') {
    if (!isShare(typed)) unitFor(typed.unit, kind)
    return typed
  }
  const unit = preferredUnit(kind, { prefer })
  if (unit === '1' || unit === '%') return { value: typed, unit: '1' }
  throw new HypometError('band-unit', `“${bare.trim()}”: write ± ${bare.trim()} ${unit}, or ± ${bare.trim()} %.`)
}

/** A band as a share of its value, and not as large as it is. */
export const isShare = (band: QuantityInput): boolean =>
  typeof band === 'number' || (band.unit !== '1' && findUnit(band.unit)?.dimension.every(d => d === 0) === true)

/** 2026-11-24 or 24.11.2026; a stroke leaves open which is the month, so it is refused. */
function readDate(text: string, key: string): string {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})/.exec(text)
  const dotted = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(text)
  const [y, m, d] = iso ? [iso[1], iso[2], iso[3]] : dotted ? [dotted[3], dotted[2], dotted[1]] : []
  const date = y ? `${y}-${m!.padStart(2, '0')}-${d!.padStart(2, '0')}` : ''
  if (!isDay(date)) throw refused('not-a-date', `“${text}” is not a date. Write 2026-11-24 or 24.11.2026.`, key)
  return date
}

/** A kept value as text that `readCell` reads back: for cells, spreadsheets and CSV. */
export function writeCell(f: Field, value: unknown, row: Row, context: RegisterContext): string {
  if (value === null || value === undefined || value === '') return ''
  switch (f.type) {
    case 'words':
      return (value as string[]).join('; ')
    case 'choice':
      return optionsOf(f, row, context).find(o => o.value === value)?.label ?? String(value)
    case 'ref':
      return (context.refs[f.to] ?? []).find(o => o.id === value)?.label ?? ''
    case 'data':
      return JSON.stringify(value)
    case 'quantity': {
      const { numbers } = context.prefer
      if (f.band && typeof value === 'number') return `${writeNumber(Number((100 * value).toPrecision(8)), numbers)} %`
      if (typeof value === 'object' && (value as { unit: string }).unit === '1')
        return writeNumber((value as { value: number }).value, numbers)
      if (typeof value === 'object')
        return `${writeNumber((value as { value: number }).value, numbers)} ${(value as { unit: string }).unit}`
      const kind = kindOfField(f, row, context)
      const si = value as number
      if (kind === null || kind === 'any' || (!f.unit && (kind === 'ratio' || kind === 'strain')))
        return writeNumber(si, numbers)
      const shown = formatQuantity(si, kind, { ...(f.unit ? { unit: f.unit } : { prefer: context.prefer }), digits: 6 })
      const short = shown
        .replace('\u202f', ' ')
        .replace(/(\.\d*?)0+( |$)/, '$1$2')
        .replace(/\.( |$)/, '$1')
      return writeNumber(short, numbers)
    }
    case 'number':
      return writeNumber(value as number, context.prefer.numbers)
    default:
      return typeof value === 'object' ? JSON.stringify(value) : String(value as string | number)
  }
}

/** Checks a typed value. @returns the value to keep. @throws HypometError with the field's key as its path */
export function checkCell(f: Field, value: unknown, row: Row, context: RegisterContext): unknown {
  const empty =
    value === null ||
    value === undefined ||
    (typeof value === 'string' && value.trim() === '') ||
    (Array.isArray(value) && value.length === 0 && f.type === 'words')
  if (empty) {
    if (f.required) throw refused('missing-setting', `${f.title} is needed.`, f.key)
    return f.type === 'words' ? [] : (f.fallback ?? (f.type === 'text' || f.type === 'long' ? '' : null))
  }
  const wrong = (message: string, code: ErrorCode = 'setting-type') => refused(code, message, f.key)
  switch (f.type) {
    case 'text':
    case 'long':
      if (typeof value !== 'string') throw wrong(`${f.title} is a text.`)
      if (f.type === 'text' && value.length > 300)
        throw wrong(`${f.title} is longer than 300 characters.`, 'setting-range')
      return value.trim()
    case 'words':
      if (!Array.isArray(value) || value.some(w => typeof w !== 'string')) throw wrong(`${f.title} is a list of words.`)
      return [...new Set((value as string[]).map(w => w.trim()).filter(Boolean))]
    case 'date':
      if (typeof value !== 'string' || !isDay(value)) throw wrong(`${f.title} is a date like 2026-11-24.`, 'not-a-date')
      return value
    case 'number':
      if (typeof value !== 'number' || !Number.isFinite(value)) throw wrong(`${f.title} is a number.`)
      if (f.whole && !Number.isInteger(value)) throw wrong(`${f.title} is a whole number.`, 'setting-range')
      if (f.min !== undefined && value < f.min) throw wrong(`${f.title} is at least ${f.min}.`, 'setting-range')
      if (f.max !== undefined && value > f.max) throw wrong(`${f.title} is at most ${f.max}.`, 'setting-range')
      return value
    case 'choice': {
      const options = optionsOf(f, row, context)
      if (!options.some(o => o.value === value))
        throw wrong(`${f.title} is one of: ${listed(options.map(o => o.label))}.`, 'setting-range')
      return value
    }
    case 'ref':
      if (!(context.refs[f.to] ?? []).some(o => o.id === value))
        throw wrong(`${f.title}: this ${f.to} is not there any more.`, 'unknown-reference')
      return value
    case 'quantity': {
      const kind = kindOfField(f, row, context)
      if (kind === null) throw wrong(chooseFirst(f), 'missing-setting')
      checkQuantity(f, value, f.band && kind !== 'any' && isShare(value as QuantityInput) ? 'ratio' : kind)
      return value
    }
    case 'data':
      return value
  }
}

function checkQuantity(f: Field & { type: 'quantity' }, value: unknown, kind: Kind | 'any'): void {
  if (kind === 'any') {
    const ok =
      typeof value === 'number'
        ? Number.isFinite(value)
        : typeof value === 'object' &&
          Number.isFinite((value as { value: number }).value) &&
          findUnit((value as { unit: string }).unit) !== null
    if (!ok) throw refused('setting-type', `${f.title} is a number with its unit.`, f.key)
    return
  }
  const parsed = quantity(kind, {
    ...(f.positive ? { positive: true } : {}),
    ...(f.min === undefined ? {} : { min: f.min }),
  }).safeParse(value)
  if (parsed.success) return
  const { message, params } = parsed.error.issues[0] as { message: string; params?: { code?: ErrorCode } }
  throw refused(params?.code ?? 'setting-type', message, f.key)
}
