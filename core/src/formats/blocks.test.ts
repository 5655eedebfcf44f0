import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { refusal } from '../fixtures/refusal'
import { afterLines, BlockReader, compiledScanner, plainScanner } from './blocks'
import { cellNumber } from './cells'
import { contentLines, splitCells, type Delimiter } from './lines'

const bytes = (text: string) => new TextEncoder().encode(text)
const layout = (delimiter: Delimiter, width: number) => ({
  delimiter,
  width,
  slots: Int32Array.from({ length: width }, (_, i) => i),
})
const scanners = [plainScanner, compiledScanner] as const
const readAll = (
  text: string,
  delimiter: Delimiter,
  width: number,
  scanner: (typeof scanners)[number] = compiledScanner,
) => scanner(layout(delimiter, width))!(bytes(text), 0, bytes(text).length, 1)

const number = fc.oneof(
  fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
  fc.integer().map(String),
  fc.tuple(fc.integer(), fc.integer({ min: 0, max: 999_999 })).map(([a, b]) => `${a}.${b}`),
  fc.bigInt({ min: 0n, max: 10n ** 25n }).map(n => `0.${n}`),
  fc.constantFrom(
    '',
    ' ',
    'nan',
    '-',
    '+5',
    '.5',
    '5.',
    '1e3',
    '1E-400',
    '0x10',
    '"7"',
    '"1,5"',
    ' 3 ',
    '1e',
    '--',
    'oops',
    '1.234',
    '"1,234"',
    '"1.234,5"',
    '−3',
    '-0',
    '1 2',
    '9007199254740993',
    '0.000000000000000000000001',
    '123456789012345678e-30',
  ),
)

describe('reading numbers from bytes', () => {
  it('gives to the bit what reading the text gives, whatever stands in a cell', () => {
    const dialects = (['\t', ';', ','] as const).flatMap(delimiter =>
      ([undefined, 'point', 'comma'] as const).map(numbers => ({ delimiter, numbers })),
    )
    for (const { delimiter, numbers } of dialects) {
      const made = scanners.map(scanner => scanner({ ...layout(delimiter, 5), numbers })!)
      fc.assert(
        fc.property(
          fc.array(fc.tuple(number, number, number), { minLength: 1, maxLength: 20 }),
          fc.constantFrom('\n', '\r\n', '\r'),
          (table, end) => {
            const rows = table.map((cells, i) => [
              String(i),
              ...cells.map(c => (delimiter === ';' ? c.replace('.', ',') : c)),
              '1',
            ])
            const text = rows.map(r => r.join(delimiter)).join(end)
            const wanted = contentLines(text).flatMap(l =>
              splitCells(l.text, delimiter).map(c => cellNumber(c, numbers)),
            )
            if (wanted.length !== rows.length * 5) return
            for (const scan of made) {
              const { cells, rows: n } = scan(bytes(text), 0, bytes(text).length, 1)
              expect(n).toBe(rows.length)
              wanted.forEach((w, i) =>
                expect(Object.is(cells[i], w), `${rows.flat()[i]}: ${cells[i]} for ${w}`).toBe(true),
              )
            }
          },
        ),
        { numRuns: 150 },
      )
    }
  })

  it('counts lines as an editor does, over blanks and comments, and names the first bad cell', () => {
    for (const scanner of scanners) {
      const block = readAll('# hello\n1,2\n\n  \n3,oops\r\n#x\r5,\n', ',', 2, scanner)
      expect(Array.from(block.cells)).toEqual([1, 2, 3, NaN, 5, NaN])
      expect(block).toMatchObject({
        rows: 3,
        lines: 7,
        firstRow: 2,
        bad: [{ slot: 1, count: 1, firstRow: 5 }],
        short: null,
      })
    }
  })

  it('lets the last row break off and refuses any other, with its row', () => {
    for (const scanner of scanners) {
      expect(readAll('1,2\n3\n\n', ',', 2, scanner)).toMatchObject({ rows: 1, short: { row: 2, has: 1 } })
      expect(refusal(() => readAll('1,2\n3\n4,5\n', ',', 2, scanner))).toMatchObject({
        code: 'ragged-row',
        place: { row: 2 },
      })
      expect(refusal(() => readAll('1,2\n3,4,5\n', ',', 2, scanner))).toMatchObject({
        code: 'ragged-row',
        place: { row: 2 },
      })
      expect(readAll('1,2,,\n3,4,,\n', ',', 2, scanner).rows).toBe(2)
    }
  })

  it('passes over columns that are not wanted, and finds where the data begin', () => {
    const reader = new BlockReader({ delimiter: ';', width: 3, slots: Int32Array.from([-1, 0, -1]) })
    const text = bytes('a;b;c\r\n[s];[kN];[x]\r\n1;2,5;"no; number"\r\n4;5;6\r\n')
    expect(reader.read(text, afterLines(text, 2), text.length, 3).columns.map(c => Array.from(c))).toEqual([[2.5, 5]])
  })

  it('reads a block in pieces as if it were one, and knows a broken row in its middle', () => {
    const lines = Array.from({ length: 90_000 }, (_, i) => `${i},${i / 8},${i % 7 ? i : 'x'}`)
    const text = bytes(lines.join('\n'))
    for (const scanner of [plainScanner, undefined]) {
      const block = new BlockReader(layout(',', 3), scanner).read(text, 0, text.length, 1)
      expect(block).toMatchObject({ rows: 90_000, firstRow: 1, bad: [{ slot: 2, count: 12_858, firstRow: 1 }] })
      expect(block.columns[1]!.every((v, i) => v === i / 8)).toBe(true)
    }
    lines[70_000] = '1,2'
    const broken = bytes(lines.join('\n'))
    expect(refusal(() => new BlockReader(layout(',', 3)).read(broken, 0, broken.length, 1))).toMatchObject({
      code: 'ragged-row',
      place: { row: 70_001 },
    })
  })
})
