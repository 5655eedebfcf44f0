import { parquetWriteBuffer } from 'hyparquet-writer'
import { bomb, join, little, noise, spoilt, text, zeros, zip, type Hostile } from './bytes'

const MAGIC = Uint8Array.of(0x93, 0x4e, 0x55, 0x4d, 0x50, 0x59)
function npy(head: string, data: Uint8Array = zeros(80), { version = 1, says = head.length } = {}): Uint8Array {
  const length = little([says, version === 1 ? 2 : 4])
  return join(MAGIC, Uint8Array.of(version, 0), length, text(head), data)
}
const shaped = (shape: string, descr = "'<f8'", order = 'False') =>
  `{'descr': ${descr}, 'fortran_order': ${order}, 'shape': (${shape}), }\n`
const numbers = (n: number) => new Uint8Array(Float64Array.from({ length: n }, (_, i) => i).buffer)

export const ARRAYS: Hostile[] = [
  { name: 'an array of 1e12 numbers', make: () => npy(shaped('1000000000000,')) },
  { name: 'an array of 1e9 by 1e9', make: () => npy(shaped('1000000000, 1000000000')) },
  { name: 'an array of minus rows', make: () => npy(shaped('-1000000, -1000000')) },
  { name: 'an array of minus rows and no bytes', make: () => npy(shaped('-5,'), zeros(0)) },
  { name: 'an array of no rows', make: () => npy(shaped('0,'), zeros(0)) },
  { name: 'a billion rows of nothing', make: () => npy(shaped('1000000000, 0'), zeros(0)) },
  { name: 'a billion words of no letters', make: () => npy(shaped('1000000000,', "'<U0'"), zeros(0)) },
  {
    name: 'a billion records of no bytes',
    make: () => npy(shaped('1000000000,', "[('a', '<U0'), ('b', '<U0')]"), zeros(0)),
  },
  { name: 'half a number of rows', make: () => npy(shaped('2.5,')) },
  { name: 'rows as words', make: () => npy(shaped('many,')) },
  { name: 'an array of three dimensions', make: () => npy(shaped('2, 2, 2')) },
  { name: 'objects', make: () => npy(shaped('10,', "'|O'")) },
  { name: 'numbers of 900 bytes', make: () => npy(shaped('10,', "'<f900'")) },
  { name: 'a head longer than the file', make: () => npy(shaped('10,'), zeros(80), { says: 60_000 }) },
  { name: 'a head of 4 GB', make: () => npy(shaped('10,'), zeros(80), { version: 2, says: 0xfffffff0 }) },
  { name: 'an empty head', make: () => npy('') },
  { name: 'a head alone', make: () => MAGIC },
  { name: 'a head of brackets', make: () => npy(`{'descr': ${'[('.repeat(30_000)}`) },
  {
    name: 'a hundred thousand fields',
    make: () => npy(shaped('1,', `[${"('a', '<f8'), ".repeat(4000)}]`).slice(0, 65_000)),
  },
  {
    name: 'a column for each of 3,000,000 numbers',
    make: () => npy(shaped('2, 3000000', "'|u1'"), zeros(6e6)),
    rows: 3_000_000,
  },
  { name: 'a million by four, turned', make: () => npy(shaped('4000, 4000', "'|u1'"), zeros(1.6e7)), rows: 4000 },
  {
    name: 'an archive of arrays that unpacks to 600 MB',
    make: () => zip({ 'a.npy': bomb('\u0000', 600) }),
  },
  {
    name: 'an archive of arrays that says 4 GB',
    make: () => zip({ 'a.npy': npy(shaped('10,'), numbers(10)) }, 0xfffffffe),
    rows: 10,
  },
  {
    name: 'an archive of arrays that says 10 bytes',
    make: () => zip({ 'a.npy': npy(shaped('10,'), numbers(10)) }, 10),
    rows: 10,
  },
  { name: 'names that climb out', make: () => zip({ '../../../a.npy': npy(shaped('10,'), numbers(10)) }), rows: 10 },
  {
    name: 'arrays by the names of objects',
    make: () =>
      zip({ '__proto__.npy': npy(shaped('10,'), numbers(10)), 'constructor.npy': npy(shaped('10,'), numbers(10)) }),
    rows: 10,
  },
  {
    name: 'an archive of 20,000 empty arrays',
    make: () => zip(Object.fromEntries(Array.from({ length: 20_000 }, (_, i) => [`a${i}.npy`, zeros(0)]))),
  },
]

function wav(
  channels: number,
  rate: number,
  bits: number,
  data: Uint8Array,
  { code = 1, says = data.length, fmt = 16 } = {},
) {
  const about = little(
    [code, 2],
    [channels, 2],
    [rate, 4],
    [(rate * channels * bits) / 8, 4],
    [(channels * bits) / 8, 2],
    [bits, 2],
  )
  return join(
    text('RIFF'),
    little([36 + says, 4]),
    text('WAVE'),
    text('fmt '),
    little([fmt, 4]),
    about,
    text('data'),
    little([says, 4]),
    data,
  )
}
export const SOUNDS: Hostile[] = [
  { name: '65,535 channels and no samples', make: () => wav(65_535, 1000, 16, zeros(0)) },
  { name: '65,535 channels of one sample', make: () => wav(65_535, 1000, 16, zeros(131_070)) },
  { name: '65,535 channels of 100 samples', make: () => wav(65_535, 1000, 8, zeros(6_553_500)) },
  { name: 'sound of no channels', make: () => wav(0, 1000, 16, zeros(100)) },
  { name: 'sound of no rate', make: () => wav(1, 0, 16, zeros(100)) },
  { name: 'sound of no bits', make: () => wav(1, 1000, 0, zeros(100)) },
  { name: 'sound of 7 bits', make: () => wav(1, 1000, 7, zeros(100)) },
  { name: 'sound of a code nobody knows', make: () => wav(1, 1000, 16, zeros(100), { code: 77 }) },
  { name: 'sound that says 4 GB', make: () => wav(2, 1000, 16, zeros(400), { says: 0xffffffff }), rows: 100 },
  {
    name: 'a format that ends before its code',
    make: () => wav(1, 1000, 16, zeros(100), { code: 0xfffe }).slice(0, 36),
  },
  { name: 'a format of 4 GB', make: () => wav(1, 1000, 16, zeros(100), { fmt: 0xffffffff }) },
  { name: 'a head of sound alone', make: () => join(text('RIFF'), little([4, 4]), text('WAVE')) },
  {
    name: 'sound before its format',
    make: () => join(text('RIFF'), little([4, 4]), text('WAVEdata'), little([100, 4]), zeros(100)),
  },
  {
    name: 'a hundred thousand empty chunks',
    make: () =>
      join(
        text('RIFF'),
        little([4, 4]),
        text('WAVE'),
        ...Array.from({ length: 1e5 }, () => join(text('junk'), little([0, 4]))),
      ),
  },
  { name: 'sound of noise', make: () => join(text('RIFF'), little([4, 4]), text('WAVE'), noise(100_000)) },
]

const table = (n = 20) =>
  new Uint8Array(
    parquetWriteBuffer({
      columnData: [
        { name: 'Time', data: Array.from({ length: n }, (_, i) => i / 10), type: 'DOUBLE' },
        { name: 'Load', data: Array.from({ length: n }, (_, i) => i), type: 'DOUBLE' },
      ],
    }),
  )
/** The footer with a number of it replaced: counts are zigzag varints there. */
function claiming(rows: number): Uint8Array {
  const file = Buffer.from(table())
  const at = file.indexOf(Buffer.from([0x16, 40]), file.length - 8 - file.readUInt32LE(file.length - 8))
  const varint: number[] = []
  for (let v = BigInt(rows) * 2n; ; v >>= 7n) {
    varint.push(Number(v & 127n) | (v > 127n ? 128 : 0))
    if (v <= 127n) break
  }
  const footer = file.readUInt32LE(file.length - 8)
  const out = Buffer.concat([file.subarray(0, at + 1), Buffer.from(varint), file.subarray(at + 2)])
  out.writeUInt32LE(footer + varint.length - 1, out.length - 8)
  return new Uint8Array(out)
}
export const PARQUET: Hostile[] = [
  { name: 'a table that claims 1e9 rows', make: () => claiming(1e9) },
  { name: 'a table that claims 1e15 rows', make: () => claiming(1e15) },
  { name: 'a footer of 4 GB', make: () => spoilt(table(), -8, little([0xffffffff, 4])) },
  { name: 'a footer of nothing', make: () => spoilt(table(), -8, little([0, 4])) },
  { name: 'a footer of noise', make: () => spoilt(table(), -200, noise(180)) },
  { name: 'a table that breaks off', make: () => table().slice(0, 120) },
  { name: 'nothing between the marks', make: () => text('PAR1PAR1') },
  { name: 'noise between the marks', make: () => join(text('PAR1'), noise(5000), little([400, 4]), text('PAR1')) },
  { name: 'pages of noise', make: () => spoilt(table(2000), 4, noise(300, 7)) },
  { name: 'pages of zeros', make: () => spoilt(table(2000), 4, zeros(300)) },
  { name: 'pages of ones', make: () => spoilt(table(2000), 4, new Uint8Array(300).fill(255)) },
  {
    name: 'a footer of lists within lists',
    make: () => join(text('PAR1'), new Uint8Array(60_000).fill(0x19), little([60_000, 4]), text('PAR1')),
  },
  {
    name: 'a footer of endless lists',
    make: () =>
      join(text('PAR1'), Uint8Array.of(0x29, 0xf8, 0xff, 0xff, 0xff, 0xff, 0x7f, 0), little([8, 4]), text('PAR1')),
  },
]
