export interface Line {
  /** As an editor counts them, from 1. */
  row: number
  text: string
}

export const DELIMITERS = ['\t', ';', ','] as const
/** A bar is read where a person says so, or nothing else fits. */
export type Delimiter = (typeof DELIMITERS)[number] | '|'

/**
 * Lines that say something: without blank lines and those that begin with `#`, but for one that names the columns of
 * what follows. Ends are \n, \r\n or \r; a name in quotes may run over a few lines.
 */
export function contentLines(text: string): Line[] {
  const lines: Line[] = []
  const physical = text.split(/\r\n|\n|\r/)
  let comment: Line | null = null
  for (let i = 0; i < physical.length; i++) {
    const row = i + 1
    let whole = physical[i]!
    if (whole.startsWith('#')) comment = { row, text: whole.slice(1) }
    if (whole.trim() === '' || whole.startsWith('#')) continue
    const more = lines.length < HEAD_LINES ? unclosed(physical, i) : 0
    if (more > 0) whole = physical.slice(i, i + more + 1).join(' ')
    i += more
    if (lines.length === 0 && comment && names(comment.text, whole)) lines.push(comment)
    lines.push({ row, text: whole })
  }
  return lines
}

/** Names are looked for among the first lines, and run over a few of them at most. */
const HEAD_LINES = 200
const LONGEST_NAME = 4

/** How many further lines a line in quotes runs over; none where they never end. */
function unclosed(lines: readonly string[], from: number): number {
  let quotes = quotesIn(lines[from]!)
  for (let more = 0; more <= LONGEST_NAME && from + more < lines.length; more++) {
    if (more > 0) quotes += quotesIn(lines[from + more]!)
    if (quotes % 2 === 0) return more
  }
  return 0
}

const quotesIn = (line: string): number => (line.includes('"') ? line.split('"').length - 1 : 0)

/** Whether a comment names the columns of the rows of numbers that begin below it. */
function names(comment: string, row: string): boolean {
  return DELIMITERS.some(delimiter => {
    const [said, read] = [splitCells(comment, delimiter), splitCells(row, delimiter)]
    return said.length > 1 && said.length === read.length && !said.some(isFigure) && read.some(isFigure)
  })
}

const isFigure = (cell: string): boolean => /^[-+−]?[.,]?\d/.test(cell)

/** Cells of a line, trimmed, quotes taken off; a delimiter inside quotes belongs to the cell. */
export function splitCells(text: string, delimiter: Delimiter): string[] {
  if (!text.includes('"')) return text.split(delimiter).map(c => c.trim())
  const cells: string[] = []
  let cell = ''
  let quoted = false
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!
    if (c === '"') {
      if (quoted && text[i + 1] === '"') cell += text[++i]
      else quoted = !quoted
    } else if (c === delimiter && !quoted) {
      cells.push(cell.trim())
      cell = ''
    } else cell += c
  }
  cells.push(cell.trim())
  return cells
}

/** Cells without the empty ones at the end. */
export function trimEnd(cells: string[]): string[] {
  let n = cells.length
  while (n > 0 && cells[n - 1] === '') n--
  return cells.slice(0, n)
}
