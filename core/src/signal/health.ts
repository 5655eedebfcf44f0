import { survey, type Surveyed } from '../kernels/survey'
import { meanSd } from '../statistics/mean'

export type HealthCode =
  'clipped' | 'flat' | 'dead' | 'gap' | 'spike' | 'noisy' | 'drift' | 'swapped-sign' | 'rate-error' | 'parted'

export interface HealthFlag {
  code: HealthCode
  message: string
  /** First sample of it, where it has one, and its time, s. */
  index?: number
  at?: number
  /** How bad it is among others of its code: how far away, how many. */
  size?: number
  /** The other of a pair that parts: its channel's number. */
  twin?: number
}

/** What is wrong, gravest first: what spoils a channel before what only needs a look. */
const GRAVEST: readonly HealthCode[] = [
  'dead',
  'clipped',
  'swapped-sign',
  'gap',
  'flat',
  'parted',
  'rate-error',
  'spike',
  'drift',
  'noisy',
]

/** Channels with the worst first: by their gravest flag, how bad that is, and how many there are. */
export function worstFirst<C extends { health?: readonly HealthFlag[] | null }>(channels: readonly C[]): C[] {
  const rank = (c: C) => Math.min(GRAVEST.length, ...(c.health ?? []).map(f => GRAVEST.indexOf(f.code)))
  const size = (c: C) =>
    Math.max(0, ...(c.health ?? []).filter(f => GRAVEST.indexOf(f.code) === rank(c)).map(f => f.size ?? 0))
  const ranked = channels.map(channel => ({
    channel,
    rank: rank(channel),
    size: size(channel),
    flags: channel.health?.length ?? 0,
  }))
  return ranked.sort((a, b) => a.rank - b.rank || b.size - a.size || b.flags - a.flags).map(r => r.channel)
}

export interface HealthOptions {
  fullScale?: number
  /** Share of samples that may be gaps. */
  gapShare?: number
  /** Samples in a row at the same value that make a flat stretch. */
  flatSamples?: number
  /** Half width of the Hampel window, samples, and its threshold in standard deviations. */
  hampelHalf?: number
  hampelSigma?: number
  /** What the sensor's own noise may be at most, 1σ, from sample to sample. */
  noiseFloor?: number
  /** Mean of the last tenth less that of the first tenth, at most. */
  driftLimit?: number
  /** Expected direction against the guide channel: +1 or −1. */
  guide?: { values: Float64Array; direction: 1 | -1 }
  /** Wanted sample interval, s. */
  interval?: number
}

const AT_FULL_SCALE = 0.999
const AT_RAIL = 0.98
const CLIPPED_SAMPLES = 3
const RATE_TOLERANCE = 0.01
const OPPOSITE = -0.8

/**
 * What is wrong with a channel, as far as it can be seen from its record and what is known of its sensor. Only what
 * options speak of is looked for; gaps, flats, spikes and dead channels always are.
 *
 * @param t  rising, s
 * @param y  same length, gaps NaN
 * @source Hampel filter: Davies & Gather (1993)
 */
export function channelHealth(t: Float64Array, y: Float64Array, o: HealthOptions = {}): HealthFlag[] {
  const s = survey(y, o.flatSamples ?? FLAT_SAMPLES, SUSPECT_JUMP)
  if (s.min > s.max) return [{ code: 'dead', message: 'The channel holds no number.' }]
  if (s.min === s.max) return [{ code: 'dead', message: 'The channel never changes.' }]
  return [
    clipped(y, s, o),
    flat(s, o),
    gaps(s, y.length, o),
    spikes(y, s, o),
    noisy(y, o),
    drift(y, o),
    swapped(y, o),
    rate(t, o),
  ].flatMap(f => (f === null ? [] : f.index === undefined ? [f] : [{ ...f, at: t[f.index]! }]))
}

const FLAT_SAMPLES = 50

/** At full scale, or at a rail a little below it: the same largest reading again and again. */
function clipped(y: Float64Array, { min, max }: Surveyed, { fullScale }: HealthOptions): HealthFlag | null {
  const most = Math.max(max, -min)
  if (fullScale === undefined || most < AT_RAIL * fullScale) return null
  const from = Math.min(AT_FULL_SCALE * fullScale, most)
  const at = runOf(y, CLIPPED_SAMPLES, v => Math.abs(v) >= from)
  if (at === null) return null
  const message =
    most >= AT_FULL_SCALE * fullScale
      ? 'The reading stands at full scale.'
      : `The reading stands at ${((100 * most) / fullScale).toFixed(1)} % of full scale: it may be at its rail.`
  return { code: 'clipped', message, index: at }
}

function flat({ flatStart }: Surveyed, { flatSamples = FLAT_SAMPLES }: HealthOptions): HealthFlag | null {
  return flatStart < 0
    ? null
    : { code: 'flat', message: `${flatSamples} samples in a row have the same value.`, index: flatStart }
}

function gaps(s: Surveyed, length: number, { gapShare = 0.01 }: HealthOptions): HealthFlag | null {
  return s.gaps > gapShare * length
    ? {
        code: 'gap',
        message: `${((100 * s.gaps) / length).toFixed(1)} % of the samples are missing.`,
        index: s.firstGap,
        size: s.gaps / length,
      }
    : null
}

/**
 * A jump of this many times the mean of the five before it is looked at more closely; a spike of eight sigmas jumps
 * farther.
 */
const SUSPECT_JUMP = 5

/**
 * Samples far from the median of their neighbours, measured by the noise of the record and about them, and by the
 * smallest step, whichever is largest: eleven neighbours alone lie close together by chance too often.
 * Looked for behind jumps, up to as many samples as can be in the minority of a window, at the record's ends and beside
 * gaps: elsewhere there is none to be found.
 */
function spikes(
  y: Float64Array,
  { jumps, gaps: missing }: Surveyed,
  { hampelHalf = 5, hampelSigma = 8 }: HealthOptions,
): HealthFlag | null {
  const { noise, step } = grainOf(y)
  const around = new Float64Array(2 * hampelHalf + 1)
  const found = { n: 0, first: y.length, worst: 0 }
  const look = (i: number) => {
    const [from, to] = [Math.max(0, i - hampelHalf), Math.min(y.length, i + hampelHalf + 1)]
    const present = ordered(around, y, from, to, NaN)
    if (present < hampelHalf || y[i] !== y[i]) return
    const middle = around[present >> 1]!
    ordered(around, y, from, to, middle)
    const away = Math.abs(y[i]! - middle)
    if (!(away > NEIGHBOURS * 1.4826 * around[present >> 1]!)) return
    // What is near may be louder than the rest.
    const scale = Math.max(noise, step, grainOf(y.subarray(Math.max(0, i - NEAR), i + NEAR + 1)).noise)
    if (!(away > hampelSigma * scale)) return
    found.n++
    found.first = Math.min(found.first, i)
    found.worst = Math.max(found.worst, away / scale)
  }
  for (const [from, to] of placesOf(y, jumps, missing > 0, hampelHalf)) for (let i = from; i < to; i++) look(i)
  const { n, first, worst } = found
  return n > 0
    ? {
        code: 'spike',
        message:
          `${n} ${n === 1 ? 'outlier' : 'outliers'} (spikes), ${n === 1 ? '' : 'the worst '}` +
          `${worst.toFixed(0)} times the scatter around it.`,
        index: first,
        size: worst,
      }
    : null
}

/** Of eleven neighbours’ own deviation a spike is so many times away, and of the noise within so many samples eight. */
const [NEIGHBOURS, NEAR] = [3, 32]

/** Where spikes can be, as ranges of samples that do not overlap, in order. */
function* placesOf(y: Float64Array, jumps: Uint32Array, hasGaps: boolean, half: number): Generator<[number, number]> {
  const n = y.length
  const edges: number[] = []
  if (hasGaps)
    for (let i = 1; i < n; i++) if (Number.isNaN(y[i]!) !== Number.isNaN(y[i - 1]!)) edges.push(Math.max(0, i - half))
  // Two sorted lists as one, with the ends of the record.
  let [done, j, e] = [0, 0, 0]
  const upTo = function* (from: number, length: number): Generator<[number, number]> {
    const [start, end] = [Math.max(done, from), Math.min(n, from + length)]
    if (end > start) yield [start, (done = end)]
  }
  yield* upTo(0, half)
  while (j < jumps.length || e < edges.length) {
    const isJump = e >= edges.length || (j < jumps.length && jumps[j]! <= edges[e]!)
    if (isJump) yield* upTo(jumps[j++]!, half)
    else yield* upTo(edges[e++]!, 2 * half)
  }
  yield* upTo(n - half, half)
}

/** A long record shows its noise in so many places. */
const PLACES = 2000

/** Noise from sample to sample, 1σ, by second differences, and the smallest step between two samples. */
function grainOf(y: Float64Array): { noise: number; step: number } {
  const stride = Math.max(1, Math.floor(y.length / PLACES))
  const bends: number[] = []
  let step = Infinity
  for (let i = 1; i + 1 < y.length; i += stride) {
    const [a, b] = [y[i]! - y[i - 1]!, y[i + 1]! - y[i]!]
    const bend = Math.abs(b - a)
    if (!Number.isNaN(bend)) bends.push(bend)
    if (a !== 0 && Math.abs(a) < step) step = Math.abs(a)
  }
  return {
    noise: bends.length === 0 ? 0 : (1.4826 * median(Float64Array.from(bends))) / Math.sqrt(6),
    step: Number.isFinite(step) ? step : 0,
  }
}

/**
 * Puts the numbers of a short window in order, or their distances from `middle` where there is one; says how many there
 * are.
 */
function ordered(into: Float64Array, y: Float64Array, from: number, to: number, middle: number): number {
  const plain = middle !== middle
  let n = 0
  for (let i = from; i < to; i++) {
    const v = plain ? y[i]! : Math.abs(y[i]! - middle)
    if (v !== v) continue
    let k = n++
    for (; k > 0 && into[k - 1]! > v; k--) into[k] = into[k - 1]!
    into[k] = v
  }
  return n
}

/** Sorts in place; NaN go last. */
function median(v: Float64Array): number {
  v.sort()
  return v[v.length >> 1]!
}

function noisy(y: Float64Array, { noiseFloor }: HealthOptions): HealthFlag | null {
  if (noiseFloor === undefined) return null
  const steps = y
    .slice(1)
    .map((v, i) => v - y[i]!)
    .filter(v => !Number.isNaN(v))
  steps.forEach((v, i) => {
    steps[i] = Math.abs(v)
  })
  const sigma = (1.4826 * median(steps)) / Math.SQRT2
  return sigma > noiseFloor
    ? {
        code: 'noisy',
        message:
          `The noise from sample to sample is ${(sigma / noiseFloor).toFixed(1)} times what the sensor ` +
          `should have.`,
        size: sigma / noiseFloor,
      }
    : null
}

function drift(y: Float64Array, { driftLimit }: HealthOptions): HealthFlag | null {
  if (driftLimit === undefined) return null
  const tenth = Math.max(1, Math.floor(y.length / 10))
  const mean = (v: Float64Array) => meanSd(v.filter(x => !Number.isNaN(x))).mean
  const change = mean(y.subarray(y.length - tenth)) - mean(y.subarray(0, tenth))
  return Math.abs(change) > driftLimit
    ? { code: 'drift', message: 'The end of the record does not come back to its beginning.' }
    : null
}

function swapped(y: Float64Array, { guide }: HealthOptions): HealthFlag | null {
  if (!guide) return null
  return movesAgainst(
    y,
    guide.values.map(v => v * guide.direction),
  )
    ? { code: 'swapped-sign', message: 'The channel moves against its guide: the sign is turned.' }
    : null
}

/** Whether one channel falls where another rises, all along. */
export const movesAgainst = (a: Float64Array, b: Float64Array): boolean => correlation(a, b) < OPPOSITE

function correlation(a: Float64Array, b: Float64Array): number {
  let [n, sa, sb, ab, aa, bb] = [0, 0, 0, 0, 0, 0]
  for (let i = 0; i < a.length; i++) {
    const [x, y] = [a[i]!, b[i]!]
    if (Number.isNaN(x) || Number.isNaN(y)) continue
    // Means and products so far, so that a long record need not be gone through twice.
    n++
    const [dx, dy] = [x - sa, y - sb]
    sa += dx / n
    sb += dy / n
    ab += dx * (y - sb)
    aa += dx * (x - sa)
    bb += dy * (y - sb)
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0
}

function rate(t: Float64Array, { interval }: HealthOptions): HealthFlag | null {
  if (interval === undefined || t.length < 2) return null
  const mean = (t[t.length - 1]! - t[0]!) / (t.length - 1)
  return Math.abs(mean / interval - 1) > RATE_TOLERANCE
    ? { code: 'rate-error', message: `Samples are ${mean.toPrecision(4)} s apart where ${interval} s was wanted.` }
    : null
}

/** First index of `length` samples in a row that hold, or null. */
function runOf(y: Float64Array, length: number, holds: (v: number) => boolean): number | null {
  let n = 0
  for (let i = 0; i < y.length; i++) {
    n = holds(y[i]!) ? n + 1 : 0
    if (n === length) return i - length + 1
  }
  return null
}
