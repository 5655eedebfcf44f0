export interface Line {
  /** As an editor counts them, from 1. */
  row: number
  text: string
}

export const DELIMITERS = ['\t', ';', ','] as const
/** A bar is read where a person says so, or nothing else fits. */
export type Delimiter = (typeof DELIMITERS)[number] | '|'

/** Lines that say something: without blank lines and those that begin with `#`. Ends are \n, \r\n or \r. */
export function contentLines(text: string): Line[] {
  const lines: Line[] = []
  let row = 0
  for (const raw of text.split(/\r\n|\n|\r/)) {
    row++
    if (raw.trim() !== '' && !raw.startsWith('#')) lines.push({ row, text: raw })
  }
  return lines
}

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
