import { windowRange } from '../signal/window'
import { fitLine } from '../statistics/line'
import { meanSd } from '../statistics/mean'
import type { Table } from '../method/table'
import type { AnyFamily } from './contract'

/** What a window of the settings was looked at for, and how it came out. */
export interface SettingCheck {
  /** Of the settings: `zeroStart`, `holds.1`. */
  path: string
  ok: boolean
  words: string
  /** What might stand there instead; taken by a person, never by itself. */
  offer?: { value: [number, number]; words: string }
}

/** A zero may carry so much of the largest load, and the load may move by so much in it. */
const MOST_CARRIED = 0.02
const MOST_MOVED = 0.05
/** Ends of a steady window may lie so many standard deviations of its middle, or so much of the largest, from it. */
const SCATTERS = 3
const MOST_OFF = 0.002

type Window = readonly [number, number]

/**
 * Looks at the windows of some settings: whether a zero is without load, and a hold ends before the ramp.
 *
 * @param table  the whole record, SI
 */
export function checkSettings(
  { checked }: Pick<AnyFamily, 'checked'>,
  { t, channels }: Table,
  settings: Readonly<Record<string, unknown>>,
): SettingCheck[] {
  if (!checked || t.length === 0) return []
  const pulses = Object.entries(checked.pulses ?? {}).flatMap(([path, channel]): SettingCheck[] => {
    const [window, read] = [settings[path], channels[channel]]
    return isWindow(window) && read ? [{ path, ...pulseCheck(t, read, window) }] : []
  })
  const y = channels[checked.load]
  if (!y) return pulses
  const zeros = Object.entries(settings).filter(([key, w]) => key.startsWith('zero') && isWindow(w)) as [
    string,
    Window,
  ][]
  const steady = (checked.steady ?? []).flatMap((key): [string, Window][] => {
    const said = settings[key]
    return isWindow(said)
      ? [[key, said]]
      : Array.isArray(said)
        ? said.flatMap((w, i): [string, Window][] => (isWindow(w) ? [[`${key}.${i}`, w]] : []))
        : []
  })
  return [
    ...zeros.map(([path, w]) => ({ path, ...zeroCheck(t, y, w, path === 'zeroEnd') })),
    ...steady.map(([path, w]) => ({ path, ...steadyCheck(t, y, w) })),
    ...pulses,
    ...straightChecks(checked.straight, channels, y, settings),
  ]
}

/** A window cuts into a pulse where so much of it is on at its edge; a tail that dies away is no cut. */
const PULSE_LEFT = 0.5

function pulseCheck(t: Float64Array, y: Float64Array, window: Window): Looked {
  const [from, to] = windowRange(t, window)
  const inside = y.subarray(from, to).filter(v => !Number.isNaN(v))
  const largest = Math.abs(largestOf(inside))
  if (inside.length < 10 || !(largest > 0)) return { ok: false, words: 'no pulse lies in this window' }
  const edge = Math.max(1, Math.round(inside.length / 50))
  const [before, after] = [inside.subarray(0, edge), inside.subarray(inside.length - edge)].map(
    piece => Math.abs(meanSd(piece).mean) / largest,
  ) as [number, number]
  if (before > PULSE_LEFT) return { ok: false, words: `it begins with ${percent(before)} of its pulse already on` }
  if (after > PULSE_LEFT) return { ok: false, words: `it ends with ${percent(after)} of its pulse still on` }
  return { ok: true, words: 'its pulse begins and ends inside' }
}

const STRAIGHT = 0.01
const LEVELS = 40
const SHORTEST_RANGE = 0.15

/** How straight the load goes over another channel on the way up, and a better range where there is one. */
function straightChecks(
  straight: { key: string; over: string } | undefined,
  channels: Table['channels'],
  load: Float64Array,
  settings: Readonly<Record<string, unknown>>,
): SettingCheck[] {
  const x = straight && channels[straight.over]
  const range = straight && settings[straight.key]
  if (!x || !isWindow(range)) return []
  const levels = wayUp(x, load)
  const off = bentWithin(levels, range)
  if (off === null) return []
  const [low, high] = range
  const tops = Array.from({ length: 19 }, (_, i) => (i + 2) / 20).filter(top => top - low >= SHORTEST_RANGE)
  const best = tops.filter(top => (bentWithin(levels, [low, top]) ?? 1) <= STRAIGHT).at(-1)
  return [
    {
      path: straight.key,
      ok: true,
      words: `off its line by ${percent(off)} at most here`,
      ...(best !== undefined && Math.abs(best - high) > 0.04
        ? {
            offer: {
              value: [low, best] as [number, number],
              words: `Straight within ${percent(STRAIGHT)}: ${percent(low)} to ${percent(best)}`,
            },
          }
        : {}),
    },
  ]
}

interface Level {
  share: number
  load: number
  x: number
}

/** Means of both by levels of the load up to its peak, so that noise does not bend the line. */
function wayUp(x: Float64Array, load: Float64Array): Level[] {
  const peak = indexOfLargest(load)
  const start = lowestMean(load.subarray(0, peak + 1), Math.max(1, Math.round(peak / 50)))
  const largest = load[peak]! - start
  if (!(largest > 0)) return []
  const sums = Array.from({ length: LEVELS }, () => ({ n: 0, load: 0, x: 0 }))
  for (let i = 0; i <= peak; i++) {
    const share = (load[i]! - start) / largest
    if (!(share >= 0) || Number.isNaN(x[i]!)) continue
    const level = sums[Math.min(LEVELS - 1, Math.floor(share * LEVELS))]!
    level.n++
    level.load += load[i]! - start
    level.x += x[i]!
  }
  return sums.flatMap(s => (s.n === 0 ? [] : [{ share: s.load / s.n / largest, load: s.load / s.n, x: s.x / s.n }]))
}

/** Largest distance from a line through the levels of a range, as a share of what the channel moves in it. */
function bentWithin(levels: readonly Level[], [low, high]: Window): number | null {
  const inside = levels.filter(l => l.share >= low && l.share <= high)
  if (inside.length < 3) return null
  const [x, y] = [inside.map(l => l.load), inside.map(l => l.x)]
  const moved = Math.abs(y.at(-1)! - y[0]!)
  if (!(moved > 0)) return null
  const { slope, intercept } = fitLine(Float64Array.from(x), Float64Array.from(y))
  return x.reduce((m, load, i) => Math.max(m, Math.abs(y[i]! - intercept - slope * load)), 0) / moved
}

const isWindow = (w: unknown): w is Window => Array.isArray(w) && w.length === 2 && w.every(v => typeof v === 'number')

type Looked = Omit<SettingCheck, 'path'>
const percent = (share: number): string => `${Number((100 * share).toPrecision(2))} %`

/** Against the lowest level of equal length on the same side of the largest load. */
function zeroCheck(t: Float64Array, raw: Float64Array, window: Window, isEnd: boolean): Looked {
  const [from, to] = windowRange(t, window)
  const inside = raw.subarray(from, to).filter(v => !Number.isNaN(v))
  if (inside.length === 0) return { ok: false, words: 'no reading lies in this window' }
  const start = raw.find(v => !Number.isNaN(v))!
  const sign = furthest(raw, start) < start ? -1 : 1
  const y = sign < 0 ? raw.map(v => -v) : raw
  const peak = indexOfLargest(y)
  const rest = lowestMean(isEnd ? y : y.subarray(0, peak + 1), inside.length)
  const largest = y[peak]! - rest
  if (!(largest > 0)) return { ok: true, words: 'the load never moves' }
  const { mean } = meanSd(inside)
  const carried = Math.abs(sign * mean - rest) / largest
  const sorted = inside.toSorted()
  const moved = (sorted[Math.floor(0.95 * (sorted.length - 1))]! - sorted[Math.floor(0.05 * sorted.length)]!) / largest
  if (carried > MOST_CARRIED) return { ok: false, words: `this window carries ${percent(carried)} of the largest load` }
  if (moved > MOST_MOVED)
    return { ok: false, words: `the load moves by ${percent(moved)} of the largest within this window` }
  return { ok: true, words: `load here is ${percent(carried)} of the largest` }
}

function steadyCheck(t: Float64Array, y: Float64Array, window: Window): Looked {
  const [from, to] = windowRange(t, window)
  const inside = y.subarray(from, to).filter(v => !Number.isNaN(v))
  if (inside.length < 20) return { ok: inside.length > 0, words: `${inside.length} readings` }
  const tenth = Math.floor(inside.length / 10)
  const middle = meanSd(inside.subarray(2 * tenth, inside.length - 2 * tenth))
  const allowed = Math.max((SCATTERS * middle.sd) / Math.sqrt(tenth), MOST_OFF * Math.abs(largestOf(y)))
  // What a hold loses is lost along it: its ends are held against the line of its middle.
  const slope = lineSlope(inside.subarray(2 * tenth, inside.length - 2 * tenth))
  const centre = (inside.length - 1) / 2
  const off = ([0, 1] as const).map(end => {
    const at = end === 0 ? (tenth - 1) / 2 : inside.length - 1 - (tenth - 1) / 2
    const piece = end === 0 ? inside.subarray(0, tenth) : inside.subarray(inside.length - tenth)
    return meanSd(piece).mean - (middle.mean + slope * (at - centre))
  })
  const worst = Math.abs(off[0]!) > Math.abs(off[1]!) ? 0 : 1
  const share = percent(Math.abs(off[worst]!) / Math.abs(largestOf(y)))
  return Math.abs(off[worst]!) <= allowed
    ? { ok: true, words: 'its ends agree with its middle' }
    : { ok: false, words: `its ${worst === 0 ? 'first' : 'last'} tenth lies ${share} of the largest off its middle` }
}

function lineSlope(y: Float64Array): number {
  const centre = (y.length - 1) / 2
  const { mean } = meanSd(y)
  let [top, bottom] = [0, 0]
  for (let i = 0; i < y.length; i++) {
    top += (i - centre) * (y[i]! - mean)
    bottom += (i - centre) ** 2
  }
  return top / bottom
}

const largestOf = (y: Float64Array): number => y.reduce((m, v) => (Math.abs(v) > Math.abs(m) ? v : m), 0)
const furthest = (y: Float64Array, from: number): number =>
  y.reduce((m, v) => (Math.abs(v - from) > Math.abs(m - from) ? v : m), from)

function indexOfLargest(y: Float64Array): number {
  let at = -1
  for (let i = 0; i < y.length; i++) if (!Number.isNaN(y[i]!) && (at < 0 || y[i]! > y[at]!)) at = i
  return at
}

/** Lowest mean of so many samples in a row; of all where there are fewer. */
function lowestMean(y: Float64Array, n: number): number {
  const values = y.filter(v => !Number.isNaN(v))
  const width = Math.min(n, values.length)
  let sum = 0
  for (let i = 0; i < width; i++) sum += values[i]!
  let least = sum
  for (let i = width; i < values.length; i++) {
    sum += values[i]! - values[i - width]!
    if (sum < least) least = sum
  }
  return least / width
}
