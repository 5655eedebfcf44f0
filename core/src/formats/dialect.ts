import type { NumberStyle } from '../quantity/number'
import type { Delimiter } from './lines'
import type { DateOrder } from './stamps'

/** What a person says of a file where the guess is wrong. */
export interface Dialect {
  /** A blank stands for any run of blanks. */
  delimiter?: Delimiter | ' '
  /** Line of the header, from 1; 0 where there is none and columns are numbered. */
  headerRow?: number
  /** How numbers are written, where those of the file do not tell. */
  numbers?: NumberStyle
  /** Which number of a date is the day, where the dates of the file do not tell. */
  dates?: DateOrder
}

const [TAB, LF, CR, BLANK, QUOTE] = [9, 10, 13, 32, 34]

/**
 * Columns set apart by blanks as columns set apart by tabs: runs of blanks and tabs become one tab, those at either end
 * of
 * a line go. Takes a text piece by piece; what stands in quotes stays.
 */
export function blanksAsTabs(): (piece: Uint8Array) => Uint8Array {
  let [isStart, pending, quoted] = [true, false, false]
  return piece => {
    const out = new Uint8Array(2 * piece.length + 1)
    let n = 0
    for (const c of piece) {
      if (!quoted && (c === BLANK || c === TAB)) {
        pending = !isStart
        continue
      }
      const isEnd = c === LF || c === CR
      if (pending && !isEnd) out[n++] = TAB
      pending = false
      isStart = isEnd
      if (c === QUOTE) quoted = !quoted
      if (isEnd) quoted = false
      out[n++] = c
    }
    return out.subarray(0, n)
  }
}
