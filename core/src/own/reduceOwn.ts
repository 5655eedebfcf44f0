import { HypometError, isHypometError } from '../error'
import { isLikeItsChannels, unitOfExpression, valuesOf } from '../expression/derived'
import { namesIn, parse } from '../expression/parse'
import type { Result, ResultTable } from '../method/reduction'
import { siLike } from '../method/settings'
import type { Table } from '../method/table'
import { kindOfSi, type Kind } from '../quantity/index'
import { largestSize } from '../signal/rising'
import { windowRange } from '../signal/window'
import { fitLine } from '../statistics/line'
import type { Warning } from '../warning'
import type { Own } from './own'

/** What results of one’s own are read with: the load they go by, the windows of zero, the steps that were found. */
export interface OwnContext {
  /** Role of the load, where the record has one. */
  guide: string | null
  zeroStart: [number, number] | null
  zeroEnd: [number, number] | null
  steps: ResultTable | null
  /** Targets of the plan’s rungs, SI. */
  rungs: readonly number[]
  /** Names of channels that read strains: their unit is a plain number’s. */
  strains: ReadonlySet<string>
}

export interface OwnResult extends Result {
  kind: Kind | null
}

/** A step stands at a rung that it is within this share of. */
const AT_RUNG = 0.05
/** Creep is told between the first and the last tenth of a step. */
const TENTH = 0.1

/**
 * Values of channels, or of expressions over them, at the places that were asked for.
 *
 * @param table  every channel that is read, SI, by its name; not zeroed
 * @throws HypometError `unknown-channel`, `expression`, `unit-dimension`, `missing-setting` at its row
 */
export function reduceOwn(
  table: Table,
  asked: readonly Own[],
  context: OwnContext,
  warnings: Warning[],
): Record<string, OwnResult> {
  return Object.fromEntries(
    asked.map((own, i) => {
      try {
        return [own.name, one(table, own, context, warnings)]
      } catch (e) {
        if (!isHypometError(e)) throw e
        const { path } = e.place
        const within =
          path === undefined || path === 'expression' ? (own.isExpression ? 'expression' : 'channel') : path
        throw new HypometError(e.code, e.message, { ...e.place, path: `settings.own.${i}.${within}` })
      }
    }),
  )
}

function one(table: Table, own: Own, context: OwnContext, warnings: Warning[]): OwnResult {
  const { unit, y } = readingOf(table, own, context)
  const kind = kindOf(own.reads, unit, context)
  const { value, per, why } = valueAtPlace(table, own, y, context)
  if (value === null) warnings.push({ code: 'no-own-result', message: `${own.name}: ${why}.` })
  return per === undefined
    ? { value, unit, bound: 'exact', kind }
    : { value, unit: unitOfSlope(unit, per), bound: 'exact', kind: null }
}

/** Of one unit a unit of another: by its name where it has one, else as it is said. */
function unitOfSlope(y: string, x: string): string {
  const unit = unitOfExpression('y / x', { y, x })
  if (kindOfSi(unit) !== null || y === x) return unit
  const per = /[·/]/.test(x) ? `(${x})` : x
  return x === '1' ? y : `${y}/${per}`
}

/** What a result reads, with its zero off; SI. */
export function readingOf(table: Table, own: Own, { zeroStart }: OwnContext): { y: Float64Array; unit: string } {
  const { unit, y } = readOf(table, own.reads)
  return { y: zeroedBy(table, y, own.zero === undefined ? zeroStart : own.zero), unit }
}

function readOf({ t, channels, units }: Table, text: string): { y: Float64Array; unit: string } {
  // A channel’s name need not be one that an expression can hold.
  const whole = channels[text]
  if (whole) return { y: whole, unit: units[text] || '1' }
  const names = namesIn(parse(text))
  const missing = names.find(n => !Object.hasOwn(channels, n))
  if (missing !== undefined)
    throw new HypometError('unknown-channel', `“${missing}” is no channel of this record.`, { path: 'channel' })
  return { y: valuesOf(text, t, channels), unit: unitOfExpression(text, units) }
}

function kindOf(text: string, unit: string, { strains }: OwnContext): Kind | null {
  const names = strains.has(text) ? [text] : namesOf(text)
  if (names.length > 0 && names.every(n => strains.has(n)) && (strains.has(text) || isLikeItsChannels(text)))
    return 'strain'
  return kindOfSi(unit) ?? null
}

const namesOf = (text: string): string[] => {
  try {
    return namesIn(parse(text))
  } catch (e) {
    if (isHypometError(e)) return []
    throw e
  }
}

function zeroedBy({ t }: Table, y: Float64Array, window: readonly [number, number] | null): Float64Array {
  if (!window || t.length === 0) return y
  const zero = meanIn(t, y, window)
  if (zero === null)
    throw new HypometError('setting-range', `It has no reading between ${window[0]} and ${window[1]} s.`, {
      path: 'zero',
    })
  return y.map(v => v - zero)
}

interface Found {
  value: number | null
  /** Unit of what a slope is on. */
  per?: string
  why?: string
}

const none = (why: string): Found => ({ value: null, why })

function valueAtPlace(table: Table, { at }: Own, y: Float64Array, context: OwnContext): Found {
  const { t } = table
  if (typeof at === 'string') return atWord(table, at, y, context)
  if ('time' in at) return atTime(t, y, at.time)
  if ('mean' in at) return had(meanIn(t, y, at.mean), 'it has no reading in that window')
  if ('load' in at) {
    const { guide, unit } = guideOf(table, context)
    return atLoad(guide, y, siLike(at.load, unit, 'at.load'))
  }
  if ('slope' in at) return slopeOn(table, at, y, context)
  const steps = stepsOf(context)
  if ('rung' in at) {
    const target = context.rungs[at.rung - 1]
    if (target === undefined) return none(`the plan has no rung ${at.rung}`)
    const { unit, role } = guideOf(table, context)
    const means = (context.steps?.columns[`${role}Mean`] ?? []) as (number | null)[]
    const near = means.findIndex(m => m !== null && Math.abs(m - target) <= AT_RUNG * Math.abs(target))
    return near < 0 ? none(`no step stands at rung ${at.rung} (${target} ${unit})`) : inStep(t, y, steps, near + 1)
  }
  if ('step' in at) return inStep(t, y, steps, at.step)
  return creepIn(t, y, steps, at.creep)
}

function atWord(table: Table, at: Own['at'] & string, y: Float64Array, context: OwnContext): Found {
  const { t } = table
  const numbers = y.filter(v => !Number.isNaN(v))
  if (numbers.length === 0) return none('it has no reading')
  const most = () => numbers.reduce((a, b) => Math.max(a, b))
  const least = () => numbers.reduce((a, b) => Math.min(a, b))
  switch (at) {
    case 'end':
      return { value: numbers.at(-1)! }
    case 'largest':
      return { value: most() }
    case 'smallest':
      return { value: least() }
    case 'range':
      return { value: most() - least() }
    case 'set': {
      const { zeroStart, zeroEnd } = context
      if (!zeroEnd || !zeroStart)
        throw new HypometError('missing-setting', 'A zero at the start and one after unloading are needed for a set.', {
          path: 'at',
        })
      const [before, after] = [meanIn(t, y, zeroStart), meanIn(t, y, zeroEnd)]
      return before === null || after === null ? none('a zero has no reading of it') : { value: after - before }
    }
    default: {
      const row = peakRow(guideOf(table, context).guide, y)
      return row < 0 ? none('it has no reading with the load') : { value: y[row]! }
    }
  }
}

const had = (value: number | null, why: string): Found => (value === null ? none(why) : { value })

export function guideOf(table: Table, { guide: role, zeroStart }: OwnContext) {
  const y = role === null ? undefined : table.channels[role]
  if (role === null || !y) throw new HypometError('missing-channel', 'The record has no load to go by.', { path: 'at' })
  return { role, guide: zeroedBy(table, y, zeroStart), unit: table.units[role] || '1' }
}

/** Row of the largest load at which both were read; a load that pulls down counts by its size. */
function peakRow(guide: Float64Array, y: Float64Array): number {
  const most = largestSize(guide)
  const sign = guide.some(v => v === most) ? 1 : -1
  let best = -1
  for (let i = 0; i < y.length; i++)
    if (!Number.isNaN(y[i]!) && !Number.isNaN(guide[i]!) && (best < 0 || sign * guide[i]! > sign * guide[best]!))
      best = i
  return best
}

/** Where the load first comes to a level, straight between the two rows about it. */
function atLoad(guide: Float64Array, y: Float64Array, level: number): Found {
  const sign = level < 0 ? -1 : 1
  let before = -1
  for (let i = 0; i < guide.length; i++) {
    const [g, v] = [guide[i]!, y[i]!]
    if (Number.isNaN(g) || Number.isNaN(v)) continue
    if (sign * g >= sign * level) {
      if (before < 0 || g === level) return { value: v }
      const share = (level - guide[before]!) / (g - guide[before]!)
      return { value: y[before]! + share * (v - y[before]!) }
    }
    before = i
  }
  return none('the load does not come to it')
}

function atTime(t: Float64Array, y: Float64Array, at: number): Found {
  let before = -1
  for (let i = 0; i < t.length; i++) {
    if (Number.isNaN(y[i]!)) continue
    if (t[i]! >= at) {
      if (t[i] === at) return { value: y[i]! }
      if (before < 0) return none('the record begins later')
      return { value: y[before]! + ((at - t[before]!) / (t[i]! - t[before]!)) * (y[i]! - y[before]!) }
    }
    before = i
  }
  return none('the record ends before')
}

function slopeOn(
  table: Table,
  {
    slope,
    between,
  }: { slope: string; between?: [Parameters<typeof siLike>[0], Parameters<typeof siLike>[0]] | undefined },
  y: Float64Array,
  context: OwnContext,
): Found {
  const { y: read, unit } = readOf(table, slope)
  const x = zeroedBy(table, read, context.zeroStart)
  const [from, to] = between ? between.map(q => siLike(q, unit, 'at.between')) : [-Infinity, Infinity]
  const hasGuide = context.guide !== null && table.channels[context.guide] !== undefined
  const last = hasGuide ? peakRow(guideOf(table, context).guide, y) : y.length - 1
  const [xs, ys]: [number[], number[]] = [[], []]
  for (let i = 0; i <= last; i++)
    if (!Number.isNaN(y[i]!) && x[i]! >= Math.min(from!, to!) && x[i]! <= Math.max(from!, to!)) {
      xs.push(x[i]!)
      ys.push(y[i]!)
    }
  const spread = xs.length === 0 ? 0 : xs.reduce((a, b) => Math.max(a, b)) - xs.reduce((a, b) => Math.min(a, b))
  if (xs.length < 3 || !(spread > 0)) return { ...none('fewer than three rows lie there, or nothing moves'), per: unit }
  return { value: fitLine(xs, ys).slope, per: unit }
}

function stepsOf({ steps }: OwnContext): [number, number][] {
  const [start, end] = [steps?.columns['start'] ?? [], steps?.columns['end'] ?? []]
  return start.map((from, i): [number, number] => [Number(from), Number(end[i])])
}

function inStep(t: Float64Array, y: Float64Array, steps: readonly [number, number][], n: number): Found {
  const step = steps[n - 1]
  return step ? had(meanIn(t, y, step), 'it has no reading in that step') : none(`there are ${steps.length} steps`)
}

function creepIn(t: Float64Array, y: Float64Array, steps: readonly [number, number][], n: number): Found {
  const step = steps[n - 1]
  if (!step) return none(`there are ${steps.length} steps`)
  const width = TENTH * (step[1] - step[0])
  const first = meanIn(t, y, [step[0], step[0] + width])
  const last = meanIn(t, y, [step[1] - width, step[1]])
  return first === null || last === null ? none('it has no reading at both ends of that step') : { value: last - first }
}

function meanIn(t: Float64Array, y: Float64Array, window: readonly [number, number]): number | null {
  const [from, to] = windowRange(t, window)
  let [sum, n] = [0, 0]
  for (let i = from; i < to; i++)
    if (!Number.isNaN(y[i]!)) {
      sum += y[i]!
      n++
    }
  return n > 0 ? sum / n : null
}
