import { cellNumber, isGap, numbersSeen, overloadOf } from '../formats/cells'
import { splitCells, type Delimiter } from '../formats/lines'
import { datesSeen, readStamp, type DateOrder } from '../formats/stamps'
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
  code: 'garbage' | 'bad-cell' | 'overload' | 'repeated-stamp' | 'gap' | 'clock-back' | 'number-ambiguous'
  t: number
  note: string
  role?: string
}

const GAP_SAMPLES = 5
/** A line longer than this is none. */
const LONGEST_LINE = 20_000
const LONGEST_HEAD = 20
/** So many good lines in a row say that a logger's clock began anew; fewer are torn ones. */
const AGREEING = 3

/** A line that may be read: its stamp as written, and its cells in SI; what cannot be read is NaN, overloads are ±∞. */
interface Read {
  stamp: number
  values: number[]
  /** s on the run's clock, when it came. */
  came: number
}

/**
 * Lines of numbers as they come, in pieces that end anywhere, made blocks of samples. A cell that is no number is a gap
 * of its own, and one that says it was beyond its range is ±∞; lines of another number of cells are counted and left
 * out, as are those whose stamp cannot be. A clock that begins anew is set to follow the time that has passed, once so
 * many lines agree.
 */
export class LineStream {
  private rest = ''
  private last = NaN
  /** s on the run's clock, when the last sample came. */
  private lastCame = NaN
  private shift = 0
  /** Lines that may yet be a header, as a logger sends one when it is connected to. */
  private head = LONGEST_HEAD
  readonly counts = { lines: 0, garbage: 0, repeated: 0, gaps: 0, badCells: 0, overloads: 0 }
  /** Bad lines in a row, so that a burst is one word. */
  private garbageRun = 0
  private repeatedRun = 0
  /** Cells that are bad or overloaded now, by role, so that each is one word. */
  private readonly wrong = new Map<string, 'bad-cell' | 'overload'>()
  /** Lines whose stamps do not follow, as long as they follow each other. */
  private suspects: Read[] = []

  /** By cell of a line, as the lines told. */
  private readonly styles: (NumberStyle | undefined)[] = []
  private dates: DateOrder | undefined
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

  /** The connection broke: a line that was half said there is not gone on with on the next one. */
  cut(): void {
    this.rest = ''
    this.head = LONGEST_HEAD
  }

  private take(line: string, arrived: number, elapsed: number, block: RigBlock, troubles: StreamTrouble[]): void {
    if (line.trim() === '' || line.startsWith('#')) return
    this.counts.lines++
    const read = this.read(line, arrived, elapsed, troubles)
    if (!read) return this.leaveOut(line, elapsed, troubles)
    this.head = 0
    for (const r of this.inTime(read, elapsed, troubles)) this.keep(r, block, troubles)
  }

  private leaveOut(line: string, elapsed: number, troubles: StreamTrouble[]): void {
    if (this.head-- > 0) return
    this.counts.garbage++
    if (this.garbageRun++ === 0)
      troubles.push({
        code: 'garbage',
        t: elapsed,
        note: `“${line.slice(0, 40)}” is no line of ${this.layout.width} cells with a stamp that can be; left out`,
      })
  }

  /** Null for what is no line: another number of cells, no stamp, or not a single number. */
  private read(line: string, arrived: number, elapsed: number, troubles: StreamTrouble[]): Read | null {
    const { delimiter, blanks, width, columns, time } = this.layout
    const cells = splitCells(blanks ? line.trim().replace(/[ \t]+/g, '\t') : line, delimiter)
    // A sign between cells may stand behind the last one, too.
    const isWhole = cells.length === width || (cells.length === width + 1 && cells.at(-1) === '')
    if (!isWhole) return null
    const styles = this.stylesOf(cells, elapsed, troubles)
    const values = columns.map(c => {
      const cell = cells[c.index] ?? ''
      const beyond = overloadOf(cell)
      return Number.isNaN(beyond) ? (isGap(cell) ? NaN : cellNumber(cell, styles(c.index))) : beyond
    })
    const stamp = time ? this.stampOf(cells[time.index] ?? '', styles(time.index), time) : arrived
    if (!Number.isFinite(stamp)) return null
    const isSaid = (i: number) => !Number.isNaN(values[i]!) || isGap(cells[columns[i]!.index] ?? '')
    // A header in the words of its channels has no number at all.
    if (!time && !values.some((_, i) => isSaid(i))) return null
    columns.forEach((c, i) => {
      const is = Math.abs(values[i]!) === Infinity ? 'overload' : isSaid(i) ? null : 'bad-cell'
      this.tell(c.role, is, cells[c.index] ?? '', elapsed, troubles)
    })
    return { stamp, values: values.map((v, i) => (Number.isFinite(v) ? columns[i]!.toSi(v) : v)), came: elapsed }
  }

  /** What is wrong with a cell, once until it is right again. */
  private tell(
    role: string,
    is: 'bad-cell' | 'overload' | null,
    cell: string,
    elapsed: number,
    troubles: StreamTrouble[],
  ): void {
    if (is === 'bad-cell') this.counts.badCells++
    if (is === 'overload') this.counts.overloads++
    if (is === null) return void this.wrong.delete(role)
    if (this.wrong.get(role) === is) return
    this.wrong.set(role, is)
    troubles.push({
      code: is,
      t: elapsed,
      role,
      note: is === 'overload' ? `reads “${cell}”: beyond its range` : `“${cell.slice(0, 20)}” is no number: a gap`,
    })
  }

  /** Lines whose time goes on, now that one more has come; those that do not follow wait until enough of them agree. */
  private inTime(read: Read, elapsed: number, troubles: StreamTrouble[]): Read[] {
    const { time, interval } = this.layout
    if (!time) return [read]
    if (Number.isNaN(this.last)) {
      this.shift = elapsed - read.stamp
      return [read]
    }
    const slack = Math.max(1, 10 * interval)
    const t = read.stamp + this.shift
    // A burst brings what was said long ago; a logger's clock may run a little faster than this one.
    const canBe = t <= elapsed + slack || t - this.last <= elapsed - this.lastCame + slack
    if (t >= this.last - slack && canBe) {
      this.dropSuspects(elapsed, troubles)
      return [read]
    }
    const before = this.suspects.at(-1)
    const follows = !before || (read.stamp > before.stamp && read.stamp - before.stamp <= elapsed - before.came + slack)
    if (!follows) this.dropSuspects(elapsed, troubles)
    this.suspects.push(read)
    if (this.suspects.length < AGREEING) return []
    const begun = this.suspects
    this.suspects = []
    const was = begun[0]!.stamp + this.shift
    this.shift = Math.max(begun[0]!.came, this.last + interval) - begun[0]!.stamp
    troubles.push({
      code: 'clock-back',
      t: elapsed,
      note: `the logger’s clock began anew: set by ${(begun[0]!.stamp + this.shift - was).toFixed(1)} s`,
    })
    return begun
  }

  private dropSuspects(elapsed: number, troubles: StreamTrouble[]): void {
    if (this.suspects.length === 0) return
    this.counts.garbage += this.suspects.length
    if (this.garbageRun++ === 0)
      troubles.push({
        code: 'garbage',
        t: elapsed,
        note: `a stamp of ${this.suspects[0]!.stamp} does not follow: its line is torn; left out`,
      })
    this.suspects = []
  }

  private keep({ stamp, values, came }: Read, block: RigBlock, troubles: StreamTrouble[]): void {
    const { columns, interval } = this.layout
    const t = stamp + this.shift
    if (t <= this.last) {
      this.counts.repeated++
      if (this.repeatedRun++ === 0)
        troubles.push({ code: 'repeated-stamp', t: this.last, note: `a stamp of ${stamp} came again; left out` })
      return
    }
    this.garbageRun = 0
    this.repeatedRun = 0
    if (t - this.last > Math.max(GAP_SAMPLES * interval, 0.5)) {
      this.counts.gaps++
      troubles.push({ code: 'gap', t, note: `no sample for ${(t - this.last).toFixed(1)} s` })
    }
    this.last = t
    this.lastCame = came
    block.t.push(t)
    columns.forEach((c, i) => block.channels[c.role]!.push(values[i]!))
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

  /** A date with slashes by the order that one of them has shown, which never is another afterwards. */
  private stampOf(cell: string, style: NumberStyle | undefined, { toSi }: { toSi(value: number): number }): number {
    const n = cellNumber(cell, style)
    if (!Number.isNaN(n)) return toSi(n)
    this.dates ??= datesSeen([cell])?.order
    const stamp = readStamp(cell, this.dates ?? 'day-first')
    return stamp ? stamp.whole + stamp.fraction : NaN
  }
}
