/** A logger's time of day, or date and time, in whole seconds and their fraction; apart, so that no digit is lost. */
export interface Stamp {
  whole: number
  fraction: number
}

/** Which of the first two numbers of a date is the day, where the year stands last behind slashes. */
export type DateOrder = 'day-first' | 'month-first'

const DAY_OF = String.raw`(?:(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})|(\d{1,2})\.(\d{1,2})\.(\d{4}))`
const TIME_OF = String.raw`(\d{1,3}):(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)?\s*([AaPp][Mm])?`
const STAMP = new RegExp(`^(?:${DAY_OF}(?:[T\\s]+|$))?(?:${TIME_OF})?\\s*(Z|[+-]\\d{2}:?\\d{2})?$`)

const SLASHED = /^(\d{1,2})\/(\d{1,2})\/(\d{4}|\d{2})(?=[T\s]|$)/

/** 11/24/2026 as 24.11.2026; as it is where nobody has said which is the day. */
const withPoints = (text: string, dates: DateOrder | undefined): string =>
  dates === undefined
    ? text
    : text.replace(SLASHED, (_, a: string, b: string, year: string) => {
        const [day, month] = dates === 'day-first' ? [a, b] : [b, a]
        return `${day}.${month}.${year.length === 2 ? `20${year}` : year}`
      })

/** How a column writes dates with slashes, as far as it tells. */
export interface DatesSeen {
  order?: DateOrder
  /** One that may be two days. */
  open?: string
}

/**
 * Tells from a whole column which number of a date is the day: one beyond twelve is. Null where it holds no dates with
 * slashes.
 *
 * @example datesSeen(['11/24/2026 10:00']) // { order: 'month-first' }
 */
export function datesSeen(cells: readonly string[]): DatesSeen | null {
  const dates = cells.flatMap(c => (m => (m ? [[Number(m[1]), Number(m[2])] as const] : []))(SLASHED.exec(c.trim())))
  if (dates.length === 0) return null
  const [isDayFirst, isMonthFirst] = [dates.some(([a]) => a > 12), dates.some(([, b]) => b > 12)]
  if (isDayFirst !== isMonthFirst) return { order: isDayFirst ? 'day-first' : 'month-first' }
  return { open: cells.find(c => SLASHED.test(c.trim()))!.trim() }
}

const isDay = (year: number, month: number, day: number): boolean =>
  (d => d.getUTCMonth() === month - 1 && d.getUTCDate() === day)(new Date(Date.UTC(year, month - 1, day)))

/**
 * Reads `10:05:07.25`, `2026-11-24 10:05:07`, `24.11.2026 10:05`, `2026/11/24T10:05:07,5Z`. With a date seconds count
 * from 1970 (of the written clock, or of UTC where the zone is written), without one from midnight. Day and month with
 * slashes and the year last mean different things in different countries: they are read by `dates`, and else not.
 *
 * @returns null where it is no stamp
 * @source  ISO 8601, and what loggers write beside it
 */
export function readStamp(text: string, dates?: DateOrder): Stamp | null {
  const m = STAMP.exec(withPoints(text.trim(), dates))
  if (!m || (m[7] === undefined && m[1] === undefined && m[4] === undefined)) return null
  const [year, month, day] = [m[1] ?? m[6], m[2] ?? m[5], m[3] ?? m[4]].map(v =>
    v === undefined ? null : Number(v),
  ) as [number | null, number, number]
  const hours = Number(m[7] ?? 0)
  const [minutes, seconds] = [Number(m[8] ?? 0), Number(m[9] ?? 0)]
  if (minutes > 59 || seconds > 60 || (year !== null && (hours > 24 || !isDay(year, month, day)))) return null
  const noon = m[11] === undefined ? 0 : m[11].toLowerCase() === 'pm' ? (hours < 12 ? 12 : 0) : hours === 12 ? -12 : 0
  const zone =
    m[12] === undefined || m[12] === 'Z'
      ? 0
      : (m[12][0] === '-' ? -1 : 1) * (Number(m[12].slice(1, 3)) * 3600 + Number(m[12].slice(-2)) * 60)
  return {
    whole:
      (year === null ? 0 : Date.UTC(year, month - 1, day) / 1000) +
      (hours + noon) * 3600 +
      minutes * 60 +
      seconds -
      zone,
    fraction: m[10] === undefined ? 0 : Number(`0.${m[10]}`),
  }
}
