import { bessel0, bessel1 } from '../../signal/bessel'
import { fourier } from '../../signal/fft'
import { windowRange } from '../../signal/window'

/** Radius over wavelength up to which the first mode is followed, and how finely. */
const [HIGHEST, STEPS] = [1.2, 240]

export interface Carried {
  /** m, backward where negative. */
  distance: number
  interval: number
  c0: number
  radius: number
  poisson: number
}

/**
 * A wave as it would have passed with every frequency carried over the distance at its own speed in place of at c₀: the
 * first
 * longitudinal mode of a round bar. Outside its window there is nothing.
 *
 * @param y  strain at the gauge
 * @returns  of the length of y
 * @source Pochhammer (1876), Chree (1889); Follansbee & Frantz (1983) for the correction by phases
 */
export function dispersed(
  t: Float64Array,
  y: Float64Array,
  window: readonly [number, number],
  { distance, interval, c0, radius, poisson }: Carried,
): Float64Array {
  const [from, to] = windowRange(t, window)
  const length = 2 ** Math.ceil(Math.log2(2 * Math.max(2, to - from)))
  const plan = fourier(length)
  const speed = firstMode(poisson)
  plan.re.fill(0)
  plan.im.fill(0)
  plan.re.set(y.subarray(from, to))
  plan.transform()
  const [re, im] = [plan.re.slice(), plan.im.slice()]
  for (let k = 0; k < length; k++) {
    const f = (k <= length / 2 ? k : k - length) / (length * interval)
    const c = c0 * speed((Math.abs(f) * radius) / c0)
    const turn = -2 * Math.PI * f * distance * (1 / c - 1 / c0)
    // Conjugated, so that a second transform is the inverse one.
    plan.re[k] = re[k]! * Math.cos(turn) - im[k]! * Math.sin(turn)
    plan.im[k] = -(re[k]! * Math.sin(turn) + im[k]! * Math.cos(turn))
  }
  plan.transform()
  const out = new Float64Array(y.length)
  for (let i = from; i < to; i++) out[i] = plan.re[i - from]! / length
  return out
}

const tables = new Map<number, (share: number) => number>()

/**
 * Phase speed of the first longitudinal mode over c₀, by frequency times radius over c₀; beyond its table as at its
 * end.
 */
export function firstMode(poisson: number): (share: number) => number {
  const known = tables.get(poisson)
  if (known) return known
  const points = [{ at: 0, c: 1 }]
  for (let i = 1; i <= STEPS; i++) {
    const perWave = (HIGHEST * i) / STEPS
    const c = speedAt(perWave, poisson, points.at(-1)!.c)
    points.push({ at: perWave * c, c })
  }
  const look = (share: number): number => {
    const next = points.findIndex(p => p.at >= share)
    if (next === 0) return 1
    if (next < 0) return points.at(-1)!.c
    const [a, b] = [points[next - 1]!, points[next]!]
    return a.c + ((share - a.at) / (b.at - a.at)) * (b.c - a.c)
  }
  tables.set(poisson, look)
  return look
}

/** Speed over c₀ at a radius over wavelength: the root just below the speed of a wave a little longer. */
export function speedAt(perWave: number, poisson: number, above = 1): number {
  const f = (c: number) => frequencyEquation(2 * Math.PI * perWave, c, poisson)
  const step = 2e-3
  let high = Math.min(1, above) + 1e-6
  const sign = Math.sign(f(high))
  let low = high
  do {
    high = low
    low -= step
  } while (low > 0.4 && Math.sign(f(low)) === sign)
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    if (Math.sign(f(middle)) === sign) high = middle
    else low = middle
  }
  return (low + high) / 2
}

/**
 * Pochhammer's frequency equation of axially symmetric waves, divided by what would make it many-valued: with J₀(√z)
 * and
 * J₁(√z)/√z it is whole in the squares of the arguments, which turn negative where waves become slow.
 *
 * @param K  2π radius over wavelength
 * @param c  phase speed over √(E/ρ)
 */
function frequencyEquation(K: number, c: number, poisson: number): number {
  const dilation = (1 - poisson) / ((1 + poisson) * (1 - 2 * poisson))
  const shear = 1 / (2 * (1 + poisson))
  const [a2, b2] = [K * K * ((c * c) / dilation - 1), K * K * ((c * c) / shear - 1)]
  return (
    2 * a2 * (b2 + K * K) * bessel1(a2) * bessel1(b2) -
    (b2 - K * K) ** 2 * bessel0(a2) * bessel1(b2) -
    4 * K * K * a2 * bessel1(a2) * bessel0(b2)
  )
}
