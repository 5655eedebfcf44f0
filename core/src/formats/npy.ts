import { unzipSync } from 'fflate'
import { HypometError } from '../error'
import type { ColumnTable, FileValues } from './columns'
import { unitSaid } from './unitSaid'

const broken = (what: string): HypometError => new HypometError('damaged-file', `This NumPy file is not read: ${what}.`)

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
 * @throws HypometError `damaged-file`
 * @source NumPy Enhancement Proposal 1, “A simple file format for NumPy arrays”
 */
export function readNpy(bytes: Uint8Array, name = 'Column'): ColumnTable {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 12) throw broken('it breaks off in its head')
  const isFirst = view.getUint8(6) === 1
  const length = isFirst ? view.getUint16(8, true) : view.getUint32(8, true)
  const start = (isFirst ? 10 : 12) + length
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
  if (shape.length > 2 || shape.some(s => !Number.isInteger(s))) throw broken('arrays of one or two dimensions are')
  if (start + count * record > bytes.length) throw broken('it breaks off before its last number')
  const [rows = 1, width = 1] = shape
  if (fields.length > 1 && width > 1) throw broken('records in two dimensions are not columns')
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
    const onSide = width > rows
    const count = onSide ? width : rows
    return Array.from({ length: onSide ? rows : width }, (_, c) =>
      f.parts!.map(({ suffix, unit, read, from }): FileValues => {
        const base = from === undefined ? undefined : from(onSide ? place(c, 0) : place(0, c))
        return {
          name: `${f.name ?? (shape.length < 2 ? name : `${name} ${c + 1}`)}${suffix}`,
          unit,
          values: Float64Array.from({ length: count }, (_i, i) => read(onSide ? place(c, i) : place(i, c), base)),
          ...(base === undefined ? {} : { from: Number(base) }),
        }
      }),
    ).flat()
  })
  if (columns.length === 0) throw broken(left[0] ?? 'it holds no numbers')
  return { columns, about: `NumPy array of ${shape.join(' × ') || '1'}`, ...(left.length > 0 ? { left } : {}) }
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
  const type = TYPES[bare]
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
  const seconds = time && TIMES[time[3]!]
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
 * @throws HypometError `damaged-file`
 */
export function readNpz(bytes: Uint8Array): ColumnTable {
  const files = unzipped(bytes)
  const left: string[] = []
  const arrays = Object.entries(files)
    .filter(([name]) => name.endsWith('.npy'))
    .flatMap(([file, data]) => {
      const name = file.replace(/\.npy$/, '')
      try {
        const read = readNpy(data, name)
        left.push(...(read.left ?? []))
        return read.columns
      } catch (e) {
        if (!(e instanceof HypometError)) throw e
        left.push(`“${name}”: ${e.message}`)
        return []
      }
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
  return { columns, about, ...(left.length > 0 ? { left } : {}) }
}

const MOST_UNPACKED = 4 * 2 ** 30

export function unzipped(bytes: Uint8Array): Record<string, Uint8Array> {
  let size = 0
  try {
    return unzipSync(bytes, {
      filter(file) {
        size += file.originalSize
        if (size > MOST_UNPACKED)
          throw new HypometError('too-large', 'This archive unpacks to more than 4 GB; it is not read.')
        return true
      },
    })
  } catch (e) {
    if (e instanceof HypometError) throw e
    throw new HypometError('truncated-file', 'The archive breaks off or is damaged.')
  }
}
