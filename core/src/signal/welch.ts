import { fourier } from './fft'

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

/** Transforms two successive segments of a real channel as one complex one, detrended and windowed; the last may be alone. */
function eachPair(x: Float64Array, nperseg: number, take: (re: Float64Array, im: Float64Array) => void): number {
  const plan = fourier(nperseg)
  const window = hann(nperseg)
  const [re, im] = [new Float64Array(nperseg), new Float64Array(nperseg)]
  const starts = startsOf(x.length, nperseg)
  for (let s = 0; s < starts.length; s += 2) {
    load(x, starts[s]!, window, re)
    if (s + 1 < starts.length) load(x, starts[s + 1]!, window, im)
    else im.fill(0)
    plan.transform(re, im)
    take(re, im)
  }
  return starts.length
}

/** Transforms the same segment of two real channels as one complex one. */
function eachSegment(x: Float64Array, y: Float64Array, nperseg: number, take: (re: Float64Array, im: Float64Array) => void): number {
  const plan = fourier(nperseg)
  const window = hann(nperseg)
  const [re, im] = [new Float64Array(nperseg), new Float64Array(nperseg)]
  const starts = startsOf(Math.min(x.length, y.length), nperseg)
  for (const at of starts) {
    load(x, at, window, re)
    load(y, at, window, im)
    plan.transform(re, im)
    take(re, im)
  }
  return starts.length
}

function load(x: Float64Array, at: number, window: Float64Array, into: Float64Array): void {
  const n = window.length
  let mean = 0
  for (let i = 0; i < n; i++) mean += x[at + i]!
  mean /= n
  for (let i = 0; i < n; i++) into[i] = (x[at + i]! - mean) * window[i]!
}

const hann = (n: number): Float64Array => Float64Array.from({ length: n }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n))

const scaleOf = (nperseg: number, sampleRate: number): number => 1 / (sampleRate * hann(nperseg).reduce((s, w) => s + w * w, 0))

/** DC and, for even segments, the Nyquist bin stand for one line each, all others for two. */
const linesOf = (k: number, nperseg: number): number => (k === 0 || (nperseg % 2 === 0 && k === nperseg / 2) ? 1 : 2)

const frequencies = (nperseg: number, sampleRate: number): Float64Array => Float64Array.from({ length: Math.floor(nperseg / 2) + 1 }, (_, k) => (k * sampleRate) / nperseg)

/**
 * One-sided power spectral density by Welch: periodic Hann window, constant detrend, segments overlapping by half.
 *
 * @param x  even time base, no gaps, at least `nperseg` samples
 * @param sampleRate  Hz
 * @source Welch (1967)
 */
export function welch(x: Float64Array, sampleRate: number, nperseg: number): WelchDensity {
  const frequency = frequencies(nperseg, sampleRate)
  const density = new Float64Array(frequency.length)
  const segments = eachPair(x, nperseg, (re, im) => {
    for (let k = 0; k < density.length; k++) {
      const j = k === 0 ? 0 : nperseg - k
      // |X|² + |Y|² of the two real segments out of the transform of X + i·Y.
      density[k] = density[k]! + (re[k]! * re[k]! + im[k]! * im[k]! + re[j]! * re[j]! + im[j]! * im[j]!) / 2
    }
  })
  const scale = scaleOf(nperseg, sampleRate) / segments
  for (let k = 0; k < density.length; k++) density[k]! *= scale * linesOf(k, nperseg)
  return { frequency, density, segments }
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
export function frequencyResponse(drive: Float64Array, response: Float64Array, sampleRate: number, nperseg: number): FrequencyResponse {
  const frequency = frequencies(nperseg, sampleRate)
  const bins = frequency.length
  const [xx, yy, xyRe, xyIm] = [new Float64Array(bins), new Float64Array(bins), new Float64Array(bins), new Float64Array(bins)]
  const segments = eachSegment(drive, response, nperseg, (re, im) => {
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
  })
  const scale = scaleOf(nperseg, sampleRate) / segments
  const each = (f: (k: number) => number) => Float64Array.from({ length: bins }, (_, k) => f(k))
  const cross = (k: number) => xyRe[k]! ** 2 + xyIm[k]! ** 2
  return {
    frequency, segments,
    h1: { re: each(k => xyRe[k]! / xx[k]!), im: each(k => xyIm[k]! / xx[k]!) },
    h2: { re: each(k => (yy[k]! * xyRe[k]!) / cross(k)), im: each(k => (yy[k]! * xyIm[k]!) / cross(k)) },
    coherence: each(k => (xx[k]! * yy[k]! > 0 ? cross(k) / (xx[k]! * yy[k]!) : 0)),
    driveDensity: each(k => xx[k]! * scale * linesOf(k, nperseg)),
    responseDensity: each(k => yy[k]! * scale * linesOf(k, nperseg)),
  }
}
