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
  /** The other of a pair that parts: its channel's number. */
  twin?: number
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
    spikes(y, s.jumps, o),
    noisy(y, o),
    drift(y, o),
    swapped(y, o),
    rate(t, o),
  ].flatMap(f => (f === null ? [] : f.index === undefined ? [f] : [{ ...f, at: t[f.index]! }]))
}

const FLAT_SAMPLES = 50

function clipped(y: Float64Array, { min, max }: Surveyed, { fullScale }: HealthOptions): HealthFlag | null {
  if (fullScale === undefined || Math.max(max, -min) < AT_FULL_SCALE * fullScale) return null
  const at = runOf(y, CLIPPED_SAMPLES, v => Math.abs(v) >= AT_FULL_SCALE * fullScale)
  return at === null ? null : { code: 'clipped', message: 'The reading stands at full scale.', index: at }
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
      }
    : null
}

/**
 * A jump of this many times the mean of the five before it is looked at more closely; a spike of eight sigmas jumps
 * farther.
 */
const SUSPECT_JUMP = 5

/**
 * A sample far from the median of its neighbours, measured by their median deviation. Looked for behind jumps only, up
 * to
 * as many samples as can be in the minority of a window: elsewhere there is none to be found.
 */
function spikes(
  y: Float64Array,
  jumps: Uint32Array,
  { hampelHalf = 5, hampelSigma = 8 }: HealthOptions,
): HealthFlag | null {
  let [n, first, next] = [0, -1, hampelHalf]
  const around = new Float64Array(2 * hampelHalf + 1)
  for (const jump of jumps)
    for (let i = Math.max(next, jump); i < jump + hampelHalf && i + hampelHalf < y.length; i++) {
      next = i + 1
      const present = ordered(around, y, i - hampelHalf, i + hampelHalf + 1, NaN)
      if (present <= hampelHalf) continue
      const middle = around[present >> 1]!
      ordered(around, y, i - hampelHalf, i + hampelHalf + 1, middle)
      const spread = 1.4826 * around[present >> 1]!
      if (spread > 0 && Math.abs(y[i]! - middle) > hampelSigma * spread) {
        n++
        if (first < 0) first = i
      }
    }
  return n > 0
    ? {
        code: 'spike',
        message: `${n} ${n === 1 ? 'outlier' : 'outliers'} (spikes).`,
        index: first,
      }
    : null
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
  const r = correlation(y, guide.values)
  return r * guide.direction < OPPOSITE
    ? { code: 'swapped-sign', message: 'The channel moves against its guide: the sign is turned.' }
    : null
}

function correlation(a: Float64Array, b: Float64Array): number {
  const pairs = Array.from(a.keys()).filter(i => !Number.isNaN(a[i]!) && !Number.isNaN(b[i]!))
  const [ma, mb] = [meanSd(pairs.map(i => a[i]!)).mean, meanSd(pairs.map(i => b[i]!)).mean]
  let [ab, aa, bb] = [0, 0, 0]
  for (const i of pairs) {
    ab += (a[i]! - ma) * (b[i]! - mb)
    aa += (a[i]! - ma) ** 2
    bb += (b[i]! - mb) ** 2
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
