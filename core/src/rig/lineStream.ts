import { cellNumber, isGap, numbersSeen } from '../formats/cells'
import { splitCells, type Delimiter } from '../formats/lines'
import { readStamp } from '../formats/stamps'
import type { NumberStyle } from '../quantity/number'
import type { RigBlock } from './block'

/** Which cell of a line is which channel, and how it comes to SI. */
export interface StreamColumn {
  role: string
  index: number
  toSi(value: number): number
}

export interface StreamLayout {
  delimiter: Delimiter
  /** Cells are parted by any number of blanks. */
  blanks?: boolean
  /** How its numbers are written; without it, as the lines tell. */
  numbers?: NumberStyle | undefined
  /** Cells of a good line. */
  width: number
  columns: StreamColumn[]
  /** Cell of time, and how it comes to seconds; null where lines are stamped as they arrive. */
  time: { index: number; toSi(value: number): number } | null
  /** s between samples as planned: more than so many of it is a gap. */
  interval: number
}

/** What was not right with what came. */
export interface StreamTrouble {
  code: 'garbage' | 'repeated-stamp' | 'gap' | 'clock-back' | 'number-ambiguous'
  t: number
  note: string
}

const GAP_SAMPLES = 5
/** A line longer than this is none. */
const LONGEST_LINE = 20_000
const LONGEST_HEAD = 20

/**
 * Lines of numbers as they come, in pieces that end anywhere, made blocks of samples. Lines that are none are counted
 * and
 * left out, as are those whose stamp does not go on; a clock that begins anew is set to follow the time that has
 * passed.
 */
export class LineStream {
  private rest = ''
  private last = NaN
  private shift = 0
  /** Lines that may yet be a header, as a logger sends one when it is connected to. */
  private head = LONGEST_HEAD
  readonly counts = { lines: 0, garbage: 0, repeated: 0, gaps: 0 }
  /** Bad lines in a row, so that a burst is one word. */
  private garbageRun = 0
  private repeatedRun = 0

  /** By cell of a line, as the lines told. */
  private readonly styles: (NumberStyle | undefined)[] = []
  private saidOpen = false

  constructor(private readonly layout: StreamLayout) {}

  /**
   * @param elapsed  s on the run's clock, now
   */
  push(piece: string, elapsed: number): { block: RigBlock; troubles: StreamTrouble[] } {
    const lines = (this.rest + piece).split(/\r\n|\n|\r/)
    this.rest = lines.pop()!
    if (this.rest.length > LONGEST_LINE) this.rest = ''
    const block: RigBlock = {
      group: 0,
      t: [],
      channels: Object.fromEntries(this.layout.columns.map(c => [c.role, []])),
    }
    const troubles: StreamTrouble[] = []
    // Lines that come in one piece and bear no stamp lie as far apart as planned, the last one now.
    lines.forEach((line, i) =>
      this.take(line, elapsed - (lines.length - 1 - i) * this.layout.interval, elapsed, block, troubles),
    )
    return { block, troubles }
  }

  /** The line broke: what was half said is not gone on with. */
  cut(): void {
    this.rest = ''
    this.head = LONGEST_HEAD
  }

  private take(line: string, arrived: number, elapsed: number, block: RigBlock, troubles: StreamTrouble[]): void {
    if (line.trim() === '' || line.startsWith('#')) return
    this.counts.lines++
    const { delimiter, blanks, width, columns, time, interval } = this.layout
    const cells = splitCells(blanks ? line.trim().replace(/[ \t]+/g, '\t') : line, delimiter)
    const styles = this.stylesOf(cells, elapsed, troubles)
    const numbers = columns.map(c => (isGap(cells[c.index] ?? '') ? NaN : cellNumber(cells[c.index]!, styles(c.index))))
    const isGood =
      cells.length >= width && numbers.every((v, i) => !Number.isNaN(v) || isGap(cells[columns[i]!.index] ?? ''))
    const stamp = time ? stampOf(cells[time.index] ?? '', styles(time.index), time) : arrived
    if (!isGood || !Number.isFinite(stamp)) {
      if (this.head-- > 0) return
      this.counts.garbage++
      if (this.garbageRun++ === 0)
        troubles.push({
          code: 'garbage',
          t: elapsed,
          note: `“${line.slice(0, 40)}” is no line of ${width} numbers; left out`,
        })
      return
    }
    this.head = 0
    this.garbageRun = 0
    let t = stamp + this.shift
    if (Number.isNaN(this.last)) this.shift = time ? elapsed - stamp : 0
    else if (t < this.last - Math.max(1, 10 * interval)) {
      // A logger that was restarted counts from anew: its first line is now.
      this.shift = Math.max(elapsed, this.last + interval) - stamp
      troubles.push({
        code: 'clock-back',
        t: elapsed,
        note: `the logger’s clock began anew: set on by ${(stamp + this.shift - t).toFixed(1)} s`,
      })
    }
    t = stamp + this.shift
    if (t <= this.last) {
      this.counts.repeated++
      if (this.repeatedRun++ === 0)
        troubles.push({ code: 'repeated-stamp', t: this.last, note: `a stamp of ${stamp} came again; left out` })
      return
    }
    this.repeatedRun = 0
    if (t - this.last > Math.max(GAP_SAMPLES * interval, 0.5)) {
      this.counts.gaps++
      troubles.push({ code: 'gap', t, note: `no sample for ${(t - this.last).toFixed(1)} s` })
    }
    this.last = t
    block.t.push(t)
    columns.forEach((c, i) => block.channels[c.role]!.push(Number.isNaN(numbers[i]!) ? NaN : c.toSi(numbers[i]!)))
  }

  /**
   * How each cell is written: as said, as its own column told so far, or as all others do. Until one tells, a comma
   * stands before decimals, as it does in a logger's lines.
   */
  private stylesOf(
    cells: string[],
    elapsed: number,
    troubles: StreamTrouble[],
  ): (i: number) => NumberStyle | undefined {
    const { numbers } = this.layout
    if (numbers) return () => numbers
    cells.forEach((c, i) => (this.styles[i] ??= numbersSeen([[c]]).style))
    const told = new Set(this.styles.filter(Boolean))
    const common = told.size === 1 ? [...told][0] : undefined
    return i => {
      const style = this.styles[i] ?? common
      const { open } = style ? {} : numbersSeen([[cells[i] ?? '']])
      if (!open) return style
      if (!this.saidOpen)
        troubles.push({
          code: 'number-ambiguous',
          t: elapsed,
          note: `“${open.text}” is read as ${open.comma}: if it is ${open.point}, say so where the stream begins`,
        })
      this.saidOpen = true
      return 'comma'
    }
  }
}

function stampOf(cell: string, style: NumberStyle | undefined, { toSi }: { toSi(value: number): number }): number {
  const n = cellNumber(cell, style)
  if (!Number.isNaN(n)) return toSi(n)
  const stamp = readStamp(cell)
  return stamp ? stamp.whole + stamp.fraction : NaN
}
