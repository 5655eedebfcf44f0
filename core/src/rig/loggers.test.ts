import { describe, expect, it } from 'vitest'
import { LineStream } from './lineStream'

/*
 * A logger that misbehaves, against what it sent, row by row: what it read well is there with its time, what it read
 * badly is a gap or an overload of that cell alone, and nothing else is lost, moved or made up.
 */

type Row = [t: number, load: number, tip: number]
type Piece = { text: string; at: number }

const ROWS: Row[] = Array.from({ length: 200 }, (_, i): Row => [1000 + i / 10, i, 500 - i / 4])
const lineOf = ([t, load, tip]: Row): string => `${t.toFixed(1)};${load};${tip}\n`
/** Each line when it was read. */
const inTime = (lines: readonly string[], from = 0): Piece[] => lines.map((text, i) => ({ text, at: from + i / 10 }))
const sent = (change: (line: string, i: number) => string) => inTime(ROWS.map((r, i) => change(lineOf(r), i)))
const at100 = (change: (line: string) => string) => sent((line, i) => (i === 100 ? change(line) : line))
const tipIs = (cell: string) => at100(line => line.replace(/;[^;]*\n$/, `;${cell}\n`))
const tipReads = (v: number): Row[] => ROWS.map(([t, load, tip], i) => [t, load, i === 100 ? v : tip])
const without = (...left: number[]): Row[] => ROWS.filter((_, i) => !left.includes(i))
const cutUp = (text: string, size: number): string[] => text.match(new RegExp(`[\\s\\S]{1,${size}}`, 'g'))!
const all = ROWS.map(lineOf).join('')
/** All of it in equal pieces over the twenty seconds that it took, each when its last sign was there. */
const pieces = (size: number): Piece[] => {
  const cut = cutUp(all, size)
  return cut.map((text, k) => ({ text, at: (20 * (k + 1)) / cut.length }))
}
const stamped = (stamp: (i: number) => string) => sent((line, i) => line.replace(/^[^;]*/, stamp(i)))
const paused = (seconds: number): Row[] => ROWS.map(([t, load, tip], i) => [i < 100 ? t : t + seconds, load, tip])

const WAYS: [name: string, pieces: Piece[], expected: Row[]][] = [
  ['nothing is wrong', inTime(ROWS.map(lineOf)), ROWS],
  // A cell
  ['an empty cell', tipIs(''), tipReads(NaN)],
  ['a cell of blanks', tipIs('   '), tipReads(NaN)],
  ['nan', tipIs('nan'), tipReads(NaN)],
  ['#N/A', tipIs('#N/A'), tipReads(NaN)],
  ['dashes', tipIs('---'), tipReads(NaN)],
  ['an error', tipIs('ERR'), tipReads(NaN)],
  ['a word', tipIs('open circuit'), tipReads(NaN)],
  ['overload in words', tipIs('OVERLOAD'), tipReads(Infinity)],
  ['OVL', tipIs('OVL'), tipReads(Infinity)],
  ['OL below', tipIs('-OL'), tipReads(-Infinity)],
  ['+OVER', tipIs('+OVER'), tipReads(Infinity)],
  ['the number of an overload', tipIs('9.91E37'), tipReads(Infinity)],
  ['the same below', tipIs('-9.9E+37'), tipReads(-Infinity)],
  ['infinity', tipIs('inf'), tipReads(Infinity)],
  ['a number with its exponent', tipIs('1.25E+02'), tipReads(125)],
  ['a number in quotes', tipIs('"125"'), tipReads(125)],
  ['blanks around a number', tipIs('  125 '), tipReads(125)],
  ['a lone sign', tipIs('-'), tipReads(NaN)],
  [
    'a channel that is read every tenth time',
    sent((l, i) => (i % 10 === 0 ? l : l.replace(/;[^;]*\n$/, ';\n'))),
    ROWS.map(([t, load, tip], i) => [t, load, i % 10 === 0 ? tip : NaN]),
  ],
  [
    'a channel that dies',
    sent((l, i) => (i < 100 ? l : l.replace(/;[^;]*\n$/, ';\n'))),
    ROWS.map(([t, load, tip], i) => [t, load, i < 100 ? tip : NaN]),
  ],
  // A line
  ['a header first', [{ text: 'Time;Load;Tip\ns;kN;mm\n', at: 0 }, ...inTime(ROWS.map(lineOf))], ROWS],
  ['its header again', at100(line => `Time;Load;Tip\n${line}`), ROWS],
  ['a comment', at100(line => `# gain 2 set by hand\n${line}`), ROWS],
  ['blank lines', sent(line => `${line}\n`), ROWS],
  ['lines that end as on another system', sent(line => line.replace('\n', '\r\n')), ROWS],
  ['a line too short', at100(() => '1010.0;100\n'), without(100)],
  ['a line too long', at100(line => line.replace('\n', ';7;8\n')), without(100)],
  ['two lines without an end between', sent((l, i) => (i === 100 ? l.trimEnd() : l)), without(100, 101)],
  ['noise', at100(line => `\u0000\u0001\ufffd\ufffd;;\n${line}`), ROWS],
  ['a line that never ends', at100(line => `${'x'.repeat(30_000)}\n${line}`), ROWS],
  // A stamp
  ['a stamp that comes again', sent((l, i) => (i === 100 ? lineOf([ROWS[99]![0], 1e6, 1e6]) : l)), without(100)],
  [
    'stamps that stand still',
    stamped(i => ROWS[i > 100 && i < 121 ? 100 : i]![0].toFixed(1)),
    ROWS.filter((_, i) => i <= 100 || i >= 121),
  ],
  ['no stamp', at100(line => line.replace(/^[^;]*/, '')), without(100)],
  ['a stamp in words', at100(line => line.replace(/^[^;]*/, 'noon')), without(100)],
  ['a stamp far ahead', at100(line => line.replace(/^[^;]*/, '994530.0')), without(100)],
  ['a stamp without its first digits', at100(line => line.replace(/^[^;]*/, '0.0')), without(100)],
  [
    'two lines in each other’s place',
    sent((l, i) => lineOf(ROWS[i === 100 ? 101 : i === 101 ? 100 : i]!)),
    without(100),
  ],
  ['a clock that begins anew', stamped(i => (i < 100 ? 1000 + i / 10 : (i - 100) / 10).toFixed(1)), ROWS],
  [
    'a logger that pauses for five seconds',
    [...inTime(ROWS.slice(0, 100).map(lineOf)), ...inTime(paused(5).slice(100).map(lineOf), 15)],
    paused(5),
  ],
  // The way here
  ['all signs one by one', pieces(1), ROWS],
  ['pieces of seven signs', pieces(7), ROWS],
  ['pieces of a thousand signs', pieces(1000), ROWS],
  [
    'three seconds kept and sent at once',
    [
      ...inTime(ROWS.slice(0, 100).map(lineOf)),
      { text: ROWS.slice(100, 130).map(lineOf).join(''), at: 13 },
      ...inTime(ROWS.slice(130).map(lineOf), 13),
    ],
    ROWS,
  ],
  [
    'a line cut by a pause of its way',
    [
      ...inTime(ROWS.slice(0, 100).map(lineOf)),
      { text: '1010.', at: 10 },
      { text: '0;100;475\n', at: 19 },
      { text: ROWS.slice(101).map(lineOf).join(''), at: 20 },
    ],
    ROWS,
  ],
]

describe('a logger that misbehaves', () => {
  it.each(WAYS)('%s', (_, given, expected) => {
    const stream = new LineStream({
      delimiter: ';',
      width: 3,
      interval: 0.1,
      columns: [
        { role: 'load', index: 1, toSi: v => v },
        { role: 'tip', index: 2, toSi: v => v },
      ],
      time: { index: 0, toSi: v => v },
    })
    const got: Row[] = []
    for (const { text, at } of given) {
      const { block } = stream.push(text, at)
      block.t.forEach((t, k) => got.push([t, block.channels['load']![k]!, block.channels['tip']![k]!]))
    }
    // What is there, in its order, and as far apart as it was read; the run's clock may begin elsewhere.
    expect(got.map(r => r[1])).toEqual(expected.map(r => r[1]))
    expect(got.map(r => r[2])).toEqual(expected.map(r => r[2]))
    const [first, from] = [got[0]![0], expected[0]![0]]
    got.forEach((r, k) => expect(r[0] - first).toBeCloseTo(expected[k]![0] - from, 6))
  })

  it('there are forty ways at least', () => expect(WAYS.length).toBeGreaterThan(40))
})
