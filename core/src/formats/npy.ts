import { unzipSync } from 'fflate'
import { HypometError } from '../error'
import type { ColumnTable } from './columns'

const broken = (what: string): HypometError => new HypometError('damaged-file', `This NumPy file is not read: ${what}.`)

type Read = (at: number) => number

/** Number types by their code without the byte order; times and objects are not among them. */
const TYPES: Record<string, { size: number; read: (view: DataView, little: boolean) => Read }> = {
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
  const columns = fields.flatMap(f => {
    const offset = at
    at += f.size
    // Row i of column c in the file's own order; a table that lies on its side is turned.
    const place = (i: number, c: number) => start + (byColumns ? c * rows + i : i * width + c) * record + offset
    const onSide = width > rows
    return Array.from({ length: onSide ? rows : width }, (_, c) => ({
      name: f.name ?? (shape.length < 2 ? name : `${name} ${c + 1}`),
      unit: null,
      values: Float64Array.from({ length: onSide ? width : rows }, (_, i) =>
        f.read(onSide ? place(c, i) : place(i, c)),
      ),
    }))
  })
  return { columns, about: `NumPy array of ${shape.join(' × ') || '1'}` }
}

function fieldsOf(head: string, view: DataView): { name: string | null; size: number; read: Read }[] {
  const typed = (code: string, name: string | null) => {
    const type = TYPES[code.slice(1)]
    if (!type) throw broken(`numbers of type “${code}” are not known`)
    return { name, size: type.size, read: type.read(view, code[0] !== '>') }
  }
  const single = /'descr':\s*'([^']+)'/.exec(head)
  if (single) return [typed(single[1]!, null)]
  const list = /'descr':\s*\[(.*?)\]/s.exec(head)?.[1] ?? ''
  const fields = Array.from(list.matchAll(/\(\s*'([^']*)'\s*,\s*'([^']+)'\s*\)/g), m => typed(m[2]!, m[1]!))
  if (fields.length === 0) throw broken('its head does not say what its numbers are')
  return fields
}

/** Arrays of a .npz archive side by side; all must be equally long. @throws HypometError `damaged-file` */
export function readNpz(bytes: Uint8Array): ColumnTable {
  const files = unzipped(bytes)
  const columns = Object.entries(files)
    .filter(([name]) => name.endsWith('.npy'))
    .flatMap(([name, data]) => readNpy(data, name.replace(/\.npy$/, '')).columns)
  if (columns.length === 0) throw broken('the archive holds no array')
  const odd = columns.find(c => c.values.length !== columns[0]!.values.length)
  if (odd)
    throw broken(
      `“${columns[0]!.name}” has ${columns[0]!.values.length} numbers and “${odd.name}” ${odd.values.length}; ` +
        `arrays of one length belong together`,
    )
  return { columns, about: `NumPy archive of ${columns.length} arrays` }
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
