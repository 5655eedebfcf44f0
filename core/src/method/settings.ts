import * as z from 'zod'
import { HypometError, isHypometError } from '../error'
import type { ErrorCode } from '../errorCodes'
import { plainIssue } from './plainIssue'
import {
  findUnit,
  quantityToSi,
  sameDimension,
  toSi,
  type Dimension,
  type Kind,
  type Quantity,
  type Unit,
} from '../quantity/index'

/** A setting as it may be written: a number in SI, or a value with its unit. */
export type QuantityInput = number | Quantity

export interface QuantityOptions {
  title?: string
  /** Zero and below are refused. */
  positive?: boolean
  min?: number
  max?: number
  whole?: boolean
  oneOf?: readonly number[]
  /** Of temperatures: a width or an uncertainty, which does not shift. */
  difference?: boolean
}

/** Adds an issue that carries a code of the contract. */
export const issue = (
  ctx: z.core.$RefinementCtx,
  code: ErrorCode,
  message: string,
  path: PropertyKey[] = [],
): never => {
  ctx.issues.push({ code: 'custom', message, params: { code }, input: undefined, path })
  return z.NEVER
}

/** A quantity of one kind; the parsed value is SI. */
export function quantity(kind: Kind, o: QuantityOptions = {}) {
  return z
    .custom<QuantityInput>()
    .transform((raw, ctx): number => {
      if (raw === undefined) return issue(ctx, 'missing-setting', 'A value is needed here.')
      try {
        return inRange(readQuantity(raw, kind), o)
      } catch (e) {
        if (!isHypometError(e)) throw e
        return issue(ctx, e.code, e.message)
      }
    })
    .meta({
      ...(o.title ? { title: o.title } : {}),
      kind,
      anyOf: [
        { type: 'number' },
        {
          type: 'object',
          properties: { value: { type: 'number' }, unit: { type: 'string' } },
          required: ['value', 'unit'],
        },
      ],
    })
}

/** A setting that may wait while something hangs on it: a form does not call it optional. */
export const mayWait = <S extends z.ZodType>(schema: S) => schema.optional().meta({ open: true })

/** A plain number without a dimension; a ratio with its unit (12 %) is one too. */
export const plain = (o: QuantityOptions = {}) => quantity('ratio', o)

/**
 * A setting that is one thing or a list: which schema counts is told by the shape, so that its own issues come through
 * with their codes and places, where a union would only say that nothing fits.
 */
export const oneOrList = <One extends z.ZodType, List extends z.ZodType>(one: One, list: List) =>
  z.unknown().transform((raw, ctx): z.output<One> | z.output<List> => {
    if (raw === undefined) return issue(ctx, 'missing-setting', 'A value is needed here.')
    const parsed = (Array.isArray(raw) ? list : one).safeParse(raw, { error: plainIssue })
    if (parsed.success) return parsed.data as z.output<One> | z.output<List>
    ctx.issues.push(...(parsed.error.issues as never[]))
    return z.NEVER
  })

export interface AnyQuantity {
  si: number
  /** Null for a plain number, which is SI of whatever it is compared with. */
  dimension: Dimension | null
  /** As it was written; null for a plain number. */
  unit: Unit | null
}

/** A quantity whose dimension is only known where it is used; a bare `g` is gravity. */
export const anyQuantity = (o: QuantityOptions = {}) =>
  z
    .custom<QuantityInput>()
    .transform((raw, ctx): AnyQuantity => {
      if (raw === undefined) return issue(ctx, 'missing-setting', 'A value is needed here.')
      try {
        return readAnyQuantity(raw, o)
      } catch (e) {
        if (!isHypometError(e)) throw e
        return issue(ctx, e.code, e.message)
      }
    })
    .meta({
      ...(o.title ? { title: o.title } : {}),
      kind: 'any',
      anyOf: [
        { type: 'number' },
        {
          type: 'object',
          properties: { value: { type: 'number' }, unit: { type: 'string' } },
          required: ['value', 'unit'],
        },
      ],
    })

function readAnyQuantity(raw: QuantityInput, o: QuantityOptions): AnyQuantity {
  if (typeof raw === 'number') return { si: inRange(readQuantity(raw, 'ratio'), o), dimension: null, unit: null }
  const unit = typeof raw?.unit === 'string' ? findUnit(raw.unit, 'gravity') : undefined
  if (unit === null) throw new HypometError('unit-unknown', `“${raw.unit}” is not a unit Hypomet knows.`)
  if (!unit || typeof raw.value !== 'number' || !Number.isFinite(raw.value))
    throw new HypometError('setting-type', 'A number in SI, or a value with its unit, is needed here.')
  // A difference of temperatures has no shift.
  const scale = o.difference ? { ...unit, shift: 0 } : unit
  return { si: inRange(toSi(raw.value, scale), o), dimension: unit.dimension, unit }
}

/**
 * Value in SI of a quantity that must be of the dimension of `unit`. @throws HypometError `unit-dimension` at `path`
 */
export function siLike({ si, dimension }: AnyQuantity, unit: string, path: string): number {
  const wanted = findUnit(unit)?.dimension
  if (dimension && wanted && !sameDimension(dimension, wanted))
    throw new HypometError('unit-dimension', `This must be in a unit like ${unit}.`, { path })
  return si
}

/** A window of time, both ends inside; the parsed value is in seconds. */
export const timeWindow = (title?: string) =>
  z
    .custom<[QuantityInput, QuantityInput]>()
    .transform((raw, ctx): [number, number] => {
      if (raw === undefined) return issue(ctx, 'missing-setting', 'A window [from, to] is needed here.')
      if (!Array.isArray(raw) || raw.length !== 2)
        return issue(ctx, 'setting-type', 'A window is two times: [from, to].')
      try {
        const [a, b] = [readQuantity(raw[0], 'time'), readQuantity(raw[1], 'time')]
        return a < b ? [a, b] : issue(ctx, 'setting-range', 'A window must end after it begins.')
      } catch (e) {
        if (!isHypometError(e)) throw e
        return issue(ctx, e.code, e.message)
      }
    })
    .meta({ ...(title ? { title } : {}), kind: 'time', type: 'array', minItems: 2, maxItems: 2 })

export function readQuantity(raw: unknown, kind: Kind): number {
  if (typeof raw === 'number' && Number.isFinite(raw)) return raw
  const q = raw as Partial<Quantity> | null
  if (
    typeof q === 'object' &&
    q !== null &&
    typeof q.value === 'number' &&
    Number.isFinite(q.value) &&
    typeof q.unit === 'string'
  )
    return quantityToSi(q as Quantity, kind)
  throw new HypometError('setting-type', 'A number in SI, or a value with its unit, is needed here.')
}

function inRange(si: number, { positive, min, max, whole, oneOf }: QuantityOptions): number {
  if (positive && !(si > 0)) throw new HypometError('setting-range', 'Must be greater than zero.')
  if (min !== undefined && si < min) throw new HypometError('setting-range', `Must not be below ${min}.`)
  if (max !== undefined && si > max) throw new HypometError('setting-range', `Must not be above ${max}.`)
  if (whole && !Number.isInteger(si)) throw new HypometError('setting-range', 'Must be a whole number.')
  if (oneOf && !oneOf.includes(si)) throw new HypometError('setting-range', `Must be one of ${oneOf.join(', ')}.`)
  return si
}

/**
 * Parses settings and turns the first issue into an error of the contract.
 *
 * @throws HypometError `missing-setting`, `setting-type`, `setting-range`, `unit-unknown`, `unit-dimension`, with path
 */
export function parseSettings<S extends z.ZodType>(schema: S, raw: unknown, root = 'settings'): z.output<S> {
  const parsed = schema.safeParse(raw ?? {}, { error: plainIssue })
  if (parsed.success) return inOrderOf(raw, parsed.data) as z.output<S>
  throw settingsErrors(parsed.error.issues, raw, root)[0]!
}

const isRecord = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && Object.getPrototypeOf(v) === Object.prototype

/** Keys in the order in which they were entered: tables of limits list theirs so. */
function inOrderOf(entered: unknown, parsed: unknown): unknown {
  if (!isRecord(entered) || !isRecord(parsed)) return parsed
  const keys = [...Object.keys(entered).filter(k => k in parsed), ...Object.keys(parsed).filter(k => !(k in entered))]
  return Object.fromEntries(keys.map(k => [k, inOrderOf(entered[k], parsed[k])]))
}

/** All issues of a Zod parse as errors of the contract, in the schema's order. */
export function settingsErrors(issues: readonly z.core.$ZodIssue[], raw: unknown, root: string): HypometError[] {
  return issues.map(i => {
    const path = [root, ...i.path.map(String)].filter(p => p !== '').join('.')
    return new HypometError(codeOf(i, raw), i.message, { path })
  })
}

function codeOf(i: z.core.$ZodIssue, raw: unknown): ErrorCode {
  const own = i.code === 'custom' ? (i.params?.['code'] as ErrorCode | undefined) : undefined
  if (own) return own
  const value = i.path.reduce<unknown>((at, key) => (at as Record<PropertyKey, unknown> | null | undefined)?.[key], raw)
  if (value === undefined) return 'missing-setting'
  // A word that is not among the words allowed is of the right kind, outside what the key allows.
  if (i.code === 'invalid_value' || i.code === 'invalid_union')
    return typeof value === 'string' ? 'setting-range' : 'setting-type'
  if (i.code === 'too_small' || i.code === 'too_big' || i.code === 'not_multiple_of') return 'setting-range'
  return 'setting-type'
}
