import { HypometError } from '../error'
import { findUnit } from '../quantity/index'
import { evenStamps, type ColumnTable } from './columns'

const broken = (what: string): HypometError =>
  new HypometError('damaged-file', `This vibration file is not read: ${what}.`)
const decoder = new TextDecoder('windows-1252')

/**
 * Functions at nodes (dataset 58) of a universal file: real and complex, single and double, even and uneven abscissa,
 * as text and binary. Functions over the first one’s abscissa come out as columns; complex ones as two.
 *
 * @throws HypometError `damaged-file`
 * @source Universal file format, dataset 58, “Function at nodal DOF”; 58b is its binary form; 164, “Units”
 */
export function readVibration(bytes: Uint8Array): ColumnTable {
  const functions: Func[] = []
  let units: FileUnits | null = null
  for (let at = 0; at < bytes.length;) {
    const [mark, after] = lineAt(bytes, at)
    if (mark.trim() !== '-1') {
      at = after
      continue
    }
    const [kind, body] = lineAt(bytes, after)
    const isFunction = /^\s*58(b?)\b/.exec(kind)
    if (/^\s*164\s*$/.test(kind)) units = unitsAt(bytes, body)
    if (isFunction) {
      const [read, end] = functionAt(bytes, body, isFunction[1] === 'b' ? kind : null, units)
      functions.push(read)
      at = endOfDataset(bytes, end)
    } else at = endOfDataset(bytes, body)
  }
  const [first] = functions
  if (!first) throw broken('it holds no function (dataset 58)')
  const same = functions.filter(
    f => f.x.length === first.x.length && f.x.every((v, i) => Math.abs(v - first.x[i]!) <= 1e-9 * Math.abs(v)),
  )
  const others = functions.length - same.length
  return {
    columns: [{ name: first.xName, unit: first.xUnit, values: first.x }, ...same.flatMap((f, i) => columnsOf(f, i))],
    about: `${same.length} ${same.length === 1 ? 'function' : 'functions'}${
      others > 0 ? `; ${others} over another ` + `abscissa left out` : ''
    }`,
  }
}

interface Func {
  name: string
  x: Float64Array
  xName: string
  xUnit: string | null
  yUnit: string | null
  /** One array, or real and imaginary parts. */
  y: Float64Array[]
}

const columnsOf = (f: Func, i: number): ColumnTable['columns'] => {
  const name = f.name || `Function ${i + 1}`
  return f.y.map((values, k) => ({
    name: f.y.length === 1 ? name : `${name} ${k === 0 ? 'real' : 'imaginary'}`,
    unit: f.yUnit,
    values,
  }))
}

/** A line without its end, and where the next begins. */
function lineAt(bytes: Uint8Array, at: number): [string, number] {
  let end = at
  while (end < bytes.length && bytes[end] !== 10) end++
  return [decoder.decode(bytes.subarray(at, end)).replace(/\r$/, ''), end + 1]
}

function endOfDataset(bytes: Uint8Array, from: number): number {
  for (let at = from; at < bytes.length;) {
    const [line, after] = lineAt(bytes, at)
    if (line.trim() === '-1') return after
    at = after
  }
  return bytes.length
}

const HEAD_LINES = 11

function functionAt(bytes: Uint8Array, from: number, binary: string | null, units: FileUnits | null): [Func, number] {
  const head: string[] = []
  let at = from
  for (let i = 0; i < HEAD_LINES; i++) {
    const [line, after] = lineAt(bytes, at)
    head.push(line)
    at = after
  }
  const [type, pairs, spacing, start, step] = head[6]!.trim().split(/\s+/).map(Number) as [
    number,
    number,
    number,
    number,
    number,
  ]
  if (![2, 4, 5, 6].includes(type) || !(pairs > 0) || !Number.isInteger(pairs))
    throw broken(`data type ${type} with ${pairs} values is not known`)
  const isComplex = type >= 5
  const isDouble = type === 4 || type === 6
  const isEven = spacing === 1
  const perPoint = (isComplex ? 2 : 1) + (isEven ? 0 : 1)
  if (isEven && !(Number.isFinite(start) && step! > 0)) throw broken('its even abscissa has no step')
  // A number takes four bytes at least, written in either way.
  if (4 * pairs * perPoint > bytes.length - at) throw broken(`it breaks off before its last of ${pairs} values`)
  const [numbers, end] = binary
    ? binaryNumbers(bytes, at, binary, pairs * perPoint, isDouble, isEven, perPoint)
    : textNumbers(bytes, at, pairs * perPoint, isDouble, isEven, perPoint)
  const column = (k: number) => Float64Array.from({ length: pairs }, (_, i) => numbers[i * perPoint + k]!)
  const abscissa = axisOf(head[7]!)
  const { isRatio, response, reference } = degreesOf(head[5]!)
  const name = [head[0]!.trim(), isRatio && reference ? `${response} / ${reference}` : response]
    .filter(t => t !== '' && t !== 'NONE')
    .join(' · ')
  const unit = ordinateOf(head[8]!, isRatio ? head[9]! : null, units)
  return [
    {
      name,
      x: isEven ? evenStamps(pairs, step, start) : column(0),
      xName: abscissa.name,
      xUnit: abscissa.unit,
      yUnit: unit.unit,
      y: Array.from({ length: isComplex ? 2 : 1 }, (_, k) => scaled(column(k + (isEven ? 0 : 1)), unit.factor)),
    },
    end,
  ]
}

const AXES: Record<number, { name: string; unit: string | null }> = {
  17: { name: 'Time', unit: 's' },
  18: { name: 'Frequency', unit: 'Hz' },
}

/** What a file says its lengths and forces are in: so many of them are a metre, a newton. */
interface FileUnits {
  length: number
  force: number
}

/** Dataset 164; null where its factors are no numbers. */
function unitsAt(bytes: Uint8Array, from: number): FileUnits | null {
  const [, second] = lineAt(bytes, from)
  const [line] = lineAt(bytes, second)
  const [length, force] = [0, 25].map(at =>
    Number(
      line
        .slice(at, at + 25)
        .trim()
        .replace(/[dD]/, 'e'),
    ),
  )
  return length! > 0 && force! > 0 ? { length: length!, force: force! } : null
}

/** By specific data type: the SI unit, and the powers of length and force in it. */
const ORDINATES: Record<number, { unit: string; length: number; force: number }> = {
  2: { unit: 'Pa', length: -2, force: 1 },
  3: { unit: '1', length: 0, force: 0 },
  8: { unit: 'm', length: 1, force: 0 },
  9: { unit: 'N', length: 0, force: 1 },
  11: { unit: 'm/s', length: 1, force: 0 },
  12: { unit: 'm/s²', length: 1, force: 0 },
  13: { unit: 'N', length: 0, force: 1 },
  15: { unit: 'Pa', length: -2, force: 1 },
}

/** An axis by its columns: data type, exponents, label, label of its units. */
function fieldsOf(line: string): { type: number; label: string; units: string } {
  const word = (at: number) => (w => (w === 'NONE' ? '' : w))(line.slice(at, at + 20).trim())
  return { type: Number(line.slice(0, 10)), label: word(26), units: word(47) }
}

/** A unit by its label; else by its type in the units that the file says; else nobody knows. */
function unitOf(line: string, units: FileUnits | null): { unit: string | null; factor: number } {
  const { type, units: said } = fieldsOf(line)
  if (said !== '' && findUnit(said, 'gravity')) return { unit: said, factor: 1 }
  const known = ORDINATES[type]
  if (!known) return { unit: null, factor: 1 }
  if (known.length === 0 && known.force === 0) return { unit: known.unit, factor: 1 }
  return units
    ? { unit: known.unit, factor: units.length ** -known.length * units.force ** -known.force }
    : { unit: null, factor: 1 }
}

/** Of a ratio by both of its axes. */
function ordinateOf(
  line: string,
  under: string | null,
  units: FileUnits | null,
): { unit: string | null; factor: number } {
  const over = unitOf(line, units)
  if (under === null) return over
  const below = unitOf(under, units)
  const unit = over.unit === null || below.unit === null ? null : `${over.unit}/(${below.unit})`
  return unit !== null && findUnit(unit, 'gravity')
    ? { unit, factor: over.factor / below.factor }
    : { unit: null, factor: 1 }
}

const scaled = (values: Float64Array, factor: number): Float64Array =>
  factor === 1 ? values : values.map(v => v * factor)

function axisOf(line: string): { name: string; unit: string | null } {
  const { type, label, units } = fieldsOf(line)
  const unit = units !== '' && findUnit(units, 'gravity') ? units : (AXES[type]?.unit ?? null)
  return { name: AXES[type]?.name ?? (label || 'Abscissa'), unit }
}

/** Functions that are a ratio of the response to the reference: frequency responses, transmissibilities. */
const RATIOS = [4, 5]

/** Where a function was read and, of a ratio, against what: by the columns of its record. */
function degreesOf(line: string): { isRatio: boolean; response: string; reference: string } {
  const degree = (at: number): string => {
    const [entity, node] = [line.slice(at, at + 10).trim(), line.slice(at + 10, at + 20).trim()]
    const where = [entity === 'NONE' ? '' : entity, node === '0' ? '' : node, direction(line.slice(at + 20, at + 24))]
    return where.filter(Boolean).join(' ')
  }
  return { isRatio: RATIOS.includes(Number(line.slice(0, 5))), response: degree(31), reference: degree(56) }
}

const direction = (code: string | undefined): string => {
  const n = Number(code)
  return Number.isInteger(n) && n !== 0 && Math.abs(n) <= 6
    ? `${n < 0 ? '−' : '+'}${['', 'X', 'Y', 'Z', 'RX', 'RY', 'RZ'][Math.abs(n)]}`
    : ''
}

/** Numbers in columns of fixed width: 13 characters single, 20 double; an uneven abscissa is single in either. */
function textNumbers(
  bytes: Uint8Array,
  from: number,
  count: number,
  isDouble: boolean,
  isEven: boolean,
  perPoint: number,
): [Float64Array, number] {
  const numbers = new Float64Array(count)
  let [n, at] = [0, from]
  while (n < count) {
    if (at >= bytes.length) throw broken(`it breaks off after ${n} of ${count} numbers`)
    const [line, after] = lineAt(bytes, at)
    if (line.trim() === '-1') throw broken(`a function ends after ${n} of ${count} numbers`)
    for (let i = 0; i < line.trimEnd().length && n < count; n++) {
      const width = isDouble && (isEven || n % perPoint > 0) ? 20 : 13
      const value = Number(
        line
          .slice(i, i + width)
          .trim()
          .replace(/[dD]/, 'e'),
      )
      if (!Number.isFinite(value)) throw broken(`“${line.slice(i, i + width).trim()}” is no number`)
      numbers[n] = value
      i += width
    }
    at = after
  }
  return [numbers, at]
}

function binaryNumbers(
  bytes: Uint8Array,
  at: number,
  kind: string,
  count: number,
  isDouble: boolean,
  isEven: boolean,
  perPoint: number,
): [Float64Array, number] {
  const [order, float] = kind.trim().split(/\s+/).slice(1).map(Number)
  if (float !== 2) throw broken('its binary numbers are not IEEE')
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const numbers = new Float64Array(count)
  let p = at
  for (let n = 0; n < count; n++) {
    const wide = isDouble && (isEven || n % perPoint > 0)
    if (p + (wide ? 8 : 4) > bytes.length) throw broken(`it breaks off after ${n} of ${count} numbers`)
    numbers[n] = wide ? view.getFloat64(p, order === 1) : view.getFloat32(p, order === 1)
    p += wide ? 8 : 4
  }
  return [numbers, p]
}
