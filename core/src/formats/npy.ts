import { HypometError } from '../error'
import { eachPart, joined } from './archive'
import { assertRoom, type ColumnTable, type FileValues } from './columns'
import { unitSaid } from './unitSaid'
import { lookUp } from '../quantity/index'

const NOT_READ = 'This NumPy file is not read: '
const broken = (what: string): HypometError => new HypometError('damaged-file', `${NOT_READ}${what}.`)

type Read = (at: number) => number

/** @source IEEE 754-2019, 3.6: binary16 */
function half(bits: number): number {
  const [sign, exponent, fraction] = [bits >> 15 ? -1 : 1, (bits >> 10) & 31, bits & 1023]
  if (exponent === 31) return fraction === 0 ? sign * Infinity : NaN
  return sign * (exponent === 0 ? fraction * 2 ** -24 : (1 + fraction / 1024) * 2 ** (exponent - 15))
}

/** Units of times, in seconds. */
const TIMES: Record<string, number> = { ns: 1e-9, us: 1e-6, μs: 1e-6, ms: 1e-3, s: 1, m: 60, h: 3600, D: 86_400 }
const NOT_A_TIME = -(2n ** 63n)

/** Number types by their code without the byte order; times, complex numbers and words are seen to apart. */
const TYPES: Record<string, { size: number; read: (view: DataView, little: boolean) => Read }> = {
  f2: { size: 2, read: (v, e) => at => half(v.getUint16(at, e)) },
  f8: { size: 8, read: (v, e) => at => v.getFloat64(at, e) },
  f4: { size: 4, read: (v, e) => at => v.getFloat32(at, e) },
  i1: { size: 1, read: v => at => v.getInt8(at) },
  i2: { size: 2, read: (v, e) => at => v.getInt16(at, e) },
  i4: { size: 4, read: (v, e) => at => v.getInt32(at, e) },
  i8: { size: 8, read: (v, e) => at => Number(v.getBigInt64(at, e)) },
  u1: { size: 1, read: v => at => v.getUint8(at) },
  u2: { size: 2, read: (v, e) => at => v.getUint16(at, e) },
  u4: { size: 4, read: (v, e) => at => v.getUint32(at, e) },
  u8: { size: 8, read: (v, e) => at => Number(v.getBigUint64(at, e)) },
  b1: { size: 1, read: v => at => v.getUint8(at) },
}

/**
 * Columns of a .npy file: one of a vector, those of a table (the longer side is the rows), the fields of records.
 *
 * @param mostRows  that are read; then the file may break off behind them
 * @throws HypometError `damaged-file`, `too-large`
 * @source NumPy Enhancement Proposal 1, “A simple file format for NumPy arrays”
 */
export function readNpy(bytes: Uint8Array, name = 'Column', mostRows = Infinity): ColumnTable {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 12 || bytes[0] !== MARK) throw broken('it breaks off in its head')
  const isFirst = view.getUint8(6) === 1
  const length = isFirst ? view.getUint16(8, true) : view.getUint32(8, true)
  const start = (isFirst ? 10 : 12) + length
  if (start > bytes.length) throw broken('it breaks off in its head')
  const head = new TextDecoder('windows-1252').decode(bytes.subarray(isFirst ? 10 : 12, start))
  const shape = (/'shape':\s*\(([^)]*)\)/.exec(head)?.[1] ?? '')
    .split(',')
    .map(s => s.trim())
    .filter(Boolean)
    .map(Number)
  const byColumns = /'fortran_order':\s*True/.test(head)
  const fields = fieldsOf(head, view)
  const record = fields.reduce((n, f) => n + f.size, 0)
  const count = shape.reduce((n, s) => n * s, 1)
  if (shape.length > 2 || shape.some(s => !Number.isInteger(s) || s < 0))
    throw broken('arrays of one or two dimensions are')
  const [rows = 1, width = 1] = shape
  if (count === 0 || record === 0) throw broken('it holds no numbers')
  const isWhole = start + count * record <= bytes.length
  if (!isWhole && mostRows === Infinity) throw broken('it breaks off before its last number')
  if (fields.length > 1 && width > 1) throw broken('records in two dimensions are not columns')
  const onSide = width > rows && width > 1
  const held = onSide ? width : rows
  // Of a file that is there in part only rows whose numbers are all there.
  const there = isWhole
    ? held
    : onSide || (byColumns && width > 1)
      ? 0
      : Math.floor((bytes.length - start) / record / width)
  if (there === 0) throw broken('it breaks off before its last number')
  const taken = Math.min(there, mostRows)
  const across = onSide ? rows : width
  assertRoom(taken, across * fields.length)
  let at = 0
  const left: string[] = []
  const columns = fields.flatMap(f => {
    const offset = at
    at += f.size
    if (f.isPadding) return []
    const called = f.name ?? name
    if (!f.parts) {
      left.push(`“${called}” holds ${f.what}`)
      return []
    }
    // Row i of column c in the file's own order; a table that lies on its side is turned.
    const place = (i: number, c: number) => start + (byColumns ? c * rows + i : i * width + c) * record + offset
    return Array.from({ length: across }, (_, c) =>
      f.parts!.map(({ suffix, unit, read, from }): FileValues => {
        const base = from === undefined ? undefined : from(onSide ? place(c, 0) : place(0, c))
        return {
          name: `${f.name ?? (shape.length < 2 ? name : `${name} ${c + 1}`)}${suffix}`,
          unit,
          values: Float64Array.from({ length: taken }, (_i, i) => read(onSide ? place(c, i) : place(i, c), base)),
          ...(base === undefined ? {} : { from: Number(base) }),
        }
      }),
    ).flat()
  })
  if (columns.length === 0) throw broken(left[0] ?? 'it holds no numbers')
  return {
    columns,
    about: `NumPy array of ${shape.join(' × ') || '1'}`,
    ...(left.length > 0 ? { left } : {}),
    ...(taken < held ? { isCut: true } : {}),
  }
}

/** A column that a field gives: as it is, or one of a complex number's two. */
interface Part {
  suffix: string
  unit: string | null
  read(at: number, base?: bigint): number
  /** Of times: the full second, counted from 1970, that the first is in. */
  from?(at: number): bigint
}

interface ArrayField {
  name: string | null
  size: number
  isPadding: boolean
  /** What it holds where it is no number. */
  what: string
  parts: Part[] | null
}

function fieldsOf(head: string, view: DataView): ArrayField[] {
  const single = /'descr':\s*'([^']+)'/.exec(head)
  if (single) return [fieldOf(single[1]!, null, view)]
  const list = /'descr':\s*\[(.*?)\](?=\s*,\s*'fortran)/s.exec(head)?.[1] ?? ''
  const fields = Array.from(list.matchAll(/\(\s*'([^']*)'\s*,\s*'([^']+)'\s*\)/g), m => fieldOf(m[2]!, m[1]!, view))
  if (fields.length === 0) throw broken('its head does not say what its numbers are')
  return fields
}

/** @throws HypometError `damaged-file` for a code whose size is not known */
function fieldOf(code: string, name: string | null, view: DataView): ArrayField {
  const little = code[0] !== '>'
  const bare = code.slice(1)
  const plain = { name, isPadding: false, what: '' }
  const type = lookUp(TYPES, bare)
  if (type) {
    const read = type.read(view, little)
    return { ...plain, size: type.size, parts: [{ suffix: '', unit: name === null ? null : unitSaid(name, ''), read }] }
  }
  // What lies between the fields of a record.
  const filled = /^V(\d+)$/.exec(bare)
  if (filled) return { ...plain, size: Number(filled[1]), isPadding: name === '', what: 'bytes', parts: null }
  const complex = /^c(8|16)$/.exec(bare)
  if (complex) {
    const size = Number(complex[1])
    const one = TYPES[`f${size / 2}`]!.read(view, little)
    const [re, im] = [one, (at: number) => one(at + size / 2)]
    return {
      ...plain,
      size,
      parts: [
        { suffix: ' magnitude', unit: null, read: at => Math.hypot(re(at), im(at)) },
        { suffix: ' phase', unit: 'rad', read: at => Math.atan2(im(at), re(at)) },
      ],
    }
  }
  const time = /^([Mm])8\[(\d*)(\S+)\]$/.exec(bare)
  const seconds = time && lookUp(TIMES, time[3]!)
  if (time && seconds !== undefined && seconds !== null)
    return { ...plain, size: 8, parts: [timePart(time[1] === 'M', seconds! * Number(time[2] || 1), view, little)] }
  const words = /^([USaO])(\d*)$/.exec(bare)
  if (!words || words[1] === 'O') throw broken(`numbers of type “${code}” are not known`)
  return { ...plain, size: Number(words[2]) * (words[1] === 'U' ? 4 : 1), what: 'words', parts: null }
}

/** Times count in seconds; dates from the full second of the first. */
function timePart(isDate: boolean, tick: number, view: DataView, little: boolean): Part {
  const ticks = (at: number) => view.getBigInt64(at, little)
  const [perSecond, perTick] = tick < 1 ? [BigInt(Math.round(1 / tick)), 1n] : [1n, BigInt(Math.round(tick))]
  const floor = (n: bigint) => (n < 0n && n % perSecond !== 0n ? n / perSecond - 1n : n / perSecond)
  return {
    suffix: '',
    unit: 's',
    read(at, base = 0n) {
      const n = ticks(at)
      return n === NOT_A_TIME ? NaN : Number(n * perTick - base * perSecond) / Number(perSecond)
    },
    ...(isDate ? { from: (at: number) => (n => (n === NOT_A_TIME ? 0n : floor(n * perTick)))(ticks(at)) } : {}),
  }
}

/**
 * Arrays of a .npz archive side by side: those of the length that most have; of the others, and of what is no number,
 * it is said that they were left out.
 *
 * @param mostRows  of each that are read
 * @throws HypometError `damaged-file`, `truncated-file`, `too-large`
 */
export function readNpz(bytes: Uint8Array, mostRows = Infinity): ColumnTable {
  const left: string[] = []
  const arrays: FileValues[] = []
  let isCut = false
  let numbers = 0
  eachArray(bytes, mostRows, (name, data) => {
    try {
      const read = readNpy(data, name, mostRows)
      left.push(...(read.left ?? []))
      arrays.push(...read.columns)
      isCut ||= read.isCut === true
    } catch (e) {
      if (!(e instanceof HypometError) || e.code === 'too-large') throw e
      left.push(`“${name}”: ${e.message.replace(NOT_READ, '').replace(/\.$/, '')}`)
    }
    numbers = arrays.reduce((n, c) => n + c.values.length, 0)
    assertRoom(numbers / Math.max(arrays.length, 1), arrays.length)
  })
  if (arrays.length === 0) throw broken(left[0] ?? 'the archive holds no array')
  // A number alone says something of the others: a rate, mostly.
  const alone = arrays.filter(c => c.values.length === 1)
  const said = alone.map(c => `${c.name} = ${c.values[0]}`)
  const long = arrays.filter(c => c.values.length > 1)
  const count = (n: number) => long.filter(c => c.values.length === n).length
  const usual = long.reduce(
    (best, c) => (count(c.values.length) > count(best) ? c.values.length : best),
    long[0]?.values.length ?? 1,
  )
  const columns = long.length === 0 ? arrays : long.filter(c => c.values.length === usual)
  for (const c of long)
    if (!columns.includes(c)) left.push(`“${c.name}” has ${c.values.length} numbers where the others have ${usual}`)
  const about = [`NumPy archive of ${columns.length} arrays`, ...said].join(', ')
  return { columns, about, ...(left.length > 0 ? { left } : {}), ...(isCut ? { isCut } : {}) }
}

/** The first byte of every array. */
const MARK = 0x93
/** Bytes of an array that are enough for its first rows. */
const FIRST_BYTES = 4 * 2 ** 20

/** Arrays one by one; where only first rows are wanted their first bytes, but those that lie column by column. */
function eachArray(bytes: Uint8Array, mostRows: number, take: (name: string, data: Uint8Array) => void): void {
  eachPart(bytes, part => {
    if (!part.endsWith('.npy')) return null
    const pieces: Uint8Array[] = []
    let size = 0
    return (piece, isLast, enough) => {
      if (pieces.length === 0 && piece.length > 0 && piece[0] !== MARK) {
        enough()
        return take(part.replace(/\.npy$/, ''), piece.subarray(0, MARK))
      }
      pieces.push(piece)
      size += piece.length
      const isEnough = mostRows < Infinity && size > FIRST_BYTES && !liesByColumns(pieces[0]!)
      if (!isLast && !isEnough) return
      if (isEnough) enough()
      take(part.replace(/\.npy$/, ''), joined(pieces, size))
    }
  })
}

const liesByColumns = (start: Uint8Array): boolean =>
  /'fortran_order':\s*True/.test(new TextDecoder('windows-1252').decode(start.subarray(0, 1000)))
