import { gzipSync } from 'node:zlib'
import { bomb, join, noise, packedBomb, text, zeros, zip, type Hostile } from './bytes'

const many = (n: number, each: (i: number) => string, by = '\n') =>
  Array.from({ length: n }, (_, i) => each(i)).join(by)
const HEAD = 'Time [s],Load [kN],Way [mm]\n'
const rows = (n: number) => many(n, i => `${i},${2 * i},${i + 1}`)
const plain = text(HEAD + rows(20) + '\n')

export const JSONS: Hostile[] = [
  { name: 'lists within lists, 200,000 deep', make: () => text('['.repeat(2e5)) },
  { name: 'records within records, 20,000 deep', make: () => text('{"a":'.repeat(2e4) + '1' + '}'.repeat(2e4)) },
  {
    name: 'columns by the names of objects',
    make: () => text('[' + many(5, i => `{"__proto__": ${i}, "constructor": ${i + 1}}`, ',') + ']'),
    rows: 5,
  },
  {
    name: 'a name of its own in each of 20,000 records',
    make: () => text('[' + many(2e4, i => `{"a${i}": 1, "b": 2}`, ',') + ']'),
  },
  { name: 'numbers beyond all', make: () => text('[' + many(5, i => `{"t": ${i}, "x": 1e999}`, ',') + ']'), rows: 5 },
  { name: 'JSON that breaks off', make: () => text('[{"t": 1, "x": 2}, {"t": ') },
  { name: 'columns of different lengths', make: () => text('{"t": [1, 2, 3], "x": [1]}') },
  { name: 'a value alone', make: () => text('{"t": 1}') },
  {
    name: 'a text of 30 MB as a name',
    make: () =>
      text(`[${many(4, i => `{"${'a'.repeat(3e7)}": ${i}, "t": ${i}}`.slice(i && -1) || `{"t": ${i}}`, ',')}]`),
  },
]

const dataset = (head: string, data: string) =>
  text(
    [
      '    -1',
      '    58',
      'NONE',
      'NONE',
      'NONE',
      'NONE',
      'NONE',
      '    1         0    0         0 NONE 1 3 NONE 0 0',
      head,
      '        17    0    0    0 Time s',
      '         8    0    0    0 Load N',
      '0 0 0 0 NONE NONE',
      '0 0 0 0 NONE NONE',
      data,
      '    -1',
      '',
    ].join('\n'),
  )
export const VIBRATION: Hostile[] = [
  { name: 'a function of 1e12 values', make: () => dataset('2 1000000000000 1 0.0 0.1 0.0', '1 2 3') },
  { name: 'a function of half a value', make: () => dataset('2 2.5 1 0.0 0.1 0.0', '1 2 3') },
  { name: 'a function without a step', make: () => dataset('2 6 1 0.0 nothing 0.0', '1 2 3 4 5 6') },
  { name: 'a function of words', make: () => dataset('2 6 1 0.0 0.1 0.0', 'one two three') },
  { name: 'a function of a kind nobody knows', make: () => dataset('99 6 1 0.0 0.1 0.0', '1 2 3 4 5 6') },
  { name: 'a dataset that is begun', make: () => text('    -1\n    58\n') },
  { name: 'a hundred thousand datasets of nothing', make: () => text('    -1\n   151\n    -1\n'.repeat(1e5)) },
  {
    name: 'a binary function that says 4 GB',
    make: () =>
      join(
        text('    -1\n    58b     2     2          11  4294967295     0     0           0           0\n'),
        noise(500),
      ),
  },
]

export const TEXTS: Hostile[] = [
  { name: 'one line of 30 MB', make: () => text('1,'.repeat(1.5e7)) },
  {
    name: '65,535 columns',
    make: () => text(`${many(65_535, i => `c${i}`, ',')}\n${many(4, () => many(65_535, i => String(i), ','))}\n`),
  },
  {
    name: 'a million columns',
    make: () => text(`${many(1e6, i => `c${i}`, ',')}\n${many(3, () => many(1e6, () => '1', ','))}\n`),
  },
  { name: 'three million blank lines', make: () => text('\n'.repeat(3e6)) },
  { name: 'a table after a million blank lines', make: () => text('\n'.repeat(1e6) + HEAD + rows(20)) },
  { name: 'a quote that never ends', make: () => text(`${HEAD}"${'a\n'.repeat(4e6)}`) },
  { name: 'a million empty cells', make: () => text(`${HEAD}${',,\n'.repeat(3.5e5)}`) },
  { name: 'a name of 5 MB', make: () => text(`Time [s],${'L'.repeat(5e6)},Way\n${rows(20)}`) },
  {
    name: 'columns by the names of objects, as text',
    make: () => text(`__proto__,constructor,toString\n${rows(20)}\n`),
    rows: 20,
  },
  { name: 'numbers of 100,000 digits', make: () => text(`${HEAD}${many(20, i => `${i},${'9'.repeat(1e5)},1`)}\n`) },
  {
    name: 'the 31st of February',
    make: () => text(`Date,Load,Way\n${many(20, i => `2026-02-31 10:00:${10 + i},${i},1`)}\n`),
  },
  { name: 'noise', make: () => noise(2e6) },
  { name: 'zeros', make: () => zeros(2e6) },
  { name: 'text with zeros in it', make: () => join(plain, zeros(1e5), plain) },
  {
    name: 'half a wide letter',
    make: () => new Uint8Array(Buffer.from(`\ufeff${HEAD}${rows(20)}`, 'utf16le').subarray(0, -1)),
  },
  { name: 'a packed text of 600 MB', make: () => packedBomb('1', 600) },
  {
    name: 'packed text that breaks off',
    make: () => (b => b.subarray(0, b.length - 20))(gzipSync(text(HEAD + rows(5000)))),
  },
  { name: 'packed noise', make: () => join(Uint8Array.of(0x1f, 0x8b, 8, 0, 0, 0, 0, 0, 0, 3), noise(5000)) },
  { name: 'packed packed packed', make: () => gzipSync(gzipSync(gzipSync(plain))) },
  {
    name: 'an archive of a text of 600 MB',
    make: () => zip({ 'a.csv': bomb('1', 600) }),
  },
  { name: 'an archive in an archive', make: () => zip({ 'a.zip': zip({ 'a.csv': plain }) }) },
  { name: 'rows of every length', make: () => text(HEAD + many(5000, i => many(1 + (i % 97), () => '1', ','))) },
  { name: 'a clock that runs back', make: () => text(HEAD + many(20, i => `${20 - i},1,2`)) },
  { name: 'nothing', make: () => zeros(0) },
  { name: 'one byte', make: () => text('1') },
]
