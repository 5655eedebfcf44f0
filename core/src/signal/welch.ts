import { fourier, type Fourier } from './fft'

export interface Spectrum {
  /** Hz */
  frequency: Float64Array
  segments: number
}

export interface WelchDensity extends Spectrum {
  /** unit²/Hz, one-sided */
  density: Float64Array
}

/** Starts of half-overlapping segments. */
const startsOf = (length: number, nperseg: number): number[] => {
  const step = nperseg - Math.floor(nperseg / 2)
  return Array.from({ length: Math.max(0, Math.floor((length - nperseg) / step) + 1) }, (_, i) => i * step)
}

/** A transform made ready: its window a periodic Hann, its sum cleared. */
function withHann(plan: Fourier): Fourier {
  plan.window.set(hann(plan.re.length))
  plan.power.fill(0)
  return plan
}

const hann = (n: number): Float64Array =>
  Float64Array.from({ length: n }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n))

const scaleOf = (nperseg: number, sampleRate: number): number =>
  1 / (sampleRate * hann(nperseg).reduce((s, w) => s + w * w, 0))

/** DC and, for even segments, the Nyquist bin stand for one line each, all others for two. */
const linesOf = (k: number, nperseg: number): number => (k === 0 || (nperseg % 2 === 0 && k === nperseg / 2) ? 1 : 2)

const frequencies = (nperseg: number, sampleRate: number): Float64Array =>
  Float64Array.from({ length: Math.floor(nperseg / 2) + 1 }, (_, k) => (k * sampleRate) / nperseg)

/**
 * One-sided power spectral density by Welch: periodic Hann window, constant detrend, segments overlapping by half.
 *
 * @param x  even time base, no gaps, at least `nperseg` samples
 * @param sampleRate  Hz
 * @param space  of an earlier call of the same length, to use again
 * @source Welch (1967)
 */
export function welch(
  x: Float64Array,
  sampleRate: number,
  nperseg: number,
  space: Fourier = fourier(nperseg),
): WelchDensity {
  const frequency = frequencies(nperseg, sampleRate)
  const plan = withHann(space)
  const starts = startsOf(x.length, nperseg)
  // Two successive real segments go as one complex one; the last may be alone.
  for (let s = 0; s < starts.length; s += 2) {
    plan.re.set(x.subarray(starts[s], starts[s]! + nperseg))
    if (s + 1 < starts.length) plan.im.set(x.subarray(starts[s + 1], starts[s + 1]! + nperseg))
    else plan.im.fill(0)
    plan.weigh()
    plan.transform()
    plan.addPower()
  }
  const scale = scaleOf(nperseg, sampleRate) / starts.length
  // |X|² + |Y|² of the two real segments out of the transform of X + i·Y: half of what stands at a line and at its
  // mirror.
  const density = Float64Array.from(
    frequency,
    (_, k) => ((plan.power[k]! + plan.power[(nperseg - k) % nperseg]!) / 2) * scale * linesOf(k, nperseg),
  )
  return { frequency, density, segments: starts.length }
}

export interface FrequencyResponse extends Spectrum {
  /** Response over drive, by H1 (noise on the response) and H2 (noise on the drive): real and imaginary parts. */
  h1: { re: Float64Array; im: Float64Array }
  h2: { re: Float64Array; im: Float64Array }
  /** 0 … 1 */
  coherence: Float64Array
  driveDensity: Float64Array
  responseDensity: Float64Array
}

/**
 * Frequency response of a response to a drive from averaged cross spectra, with coherence.
 *
 * @source Bendat & Piersol, Random Data, ch. 6
 */
export function frequencyResponse(
  drive: Float64Array,
  response: Float64Array,
  sampleRate: number,
  nperseg: number,
): FrequencyResponse {
  const frequency = frequencies(nperseg, sampleRate)
  const bins = frequency.length
  const [xx, yy, xyRe, xyIm] = [
    new Float64Array(bins),
    new Float64Array(bins),
    new Float64Array(bins),
    new Float64Array(bins),
  ]
  const plan = withHann(fourier(nperseg))
  const { re, im } = plan
  const starts = startsOf(Math.min(drive.length, response.length), nperseg)
  for (const at of starts) {
    re.set(drive.subarray(at, at + nperseg))
    im.set(response.subarray(at, at + nperseg))
    plan.weigh()
    plan.transform()
    for (let k = 0; k < bins; k++) {
      const j = (nperseg - k) % nperseg
      // Transforms of the two real channels out of that of drive + i·response.
      const [xr, xi] = [(re[k]! + re[j]!) / 2, (im[k]! - im[j]!) / 2]
      const [yr, yi] = [(im[k]! + im[j]!) / 2, (re[j]! - re[k]!) / 2]
      xx[k]! += xr * xr + xi * xi
      yy[k]! += yr * yr + yi * yi
      xyRe[k]! += xr * yr + xi * yi
      xyIm[k]! += xr * yi - xi * yr
    }
  }
  const segments = starts.length
  const scale = scaleOf(nperseg, sampleRate) / segments
  const each = (f: (k: number) => number) => Float64Array.from({ length: bins }, (_, k) => f(k))
  const cross = (k: number) => xyRe[k]! ** 2 + xyIm[k]! ** 2
  return {
    frequency,
    segments,
    h1: { re: each(k => xyRe[k]! / xx[k]!), im: each(k => xyIm[k]! / xx[k]!) },
    h2: { re: each(k => (yy[k]! * xyRe[k]!) / cross(k)), im: each(k => (yy[k]! * xyIm[k]!) / cross(k)) },
    coherence: each(k => (xx[k]! * yy[k]! > 0 ? cross(k) / (xx[k]! * yy[k]!) : 0)),
    driveDensity: each(k => xx[k]! * scale * linesOf(k, nperseg)),
    responseDensity: each(k => yy[k]! * scale * linesOf(k, nperseg)),
  }
}
