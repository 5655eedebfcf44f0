import { describe, expect, it } from 'vitest'
import { SeededRandom } from '../statistics/random'
import { fourier } from './fft'
import { findLag, vertex } from './lag'
import { octaveSteps, shockResponse } from './shockResponse'
import { frequencyResponse, welch } from './welch'

const noise = (n: number, seed: number) => {
  const random = new SeededRandom(seed)
  return Float64Array.from({ length: n }, () => random.normal())
}

describe('Fourier transform', () => {
  it('is the sum of the definition, for powers of two and for any other length', () => {
    for (const n of [1, 2, 4, 8, 12, 35, 64, 97, 256, 512]) {
      const [re, im] = [noise(n, n), noise(n, n + 1)]
      const wanted = Array.from({ length: n }, (_, k) => {
        let [r, i] = [0, 0]
        for (let j = 0; j < n; j++) {
          const a = (-2 * Math.PI * j * k) / n
          r += re[j]! * Math.cos(a) - im[j]! * Math.sin(a)
          i += re[j]! * Math.sin(a) + im[j]! * Math.cos(a)
        }
        return [r, i]
      })
      const { re: r, im: i, transform } = fourier(n)
      r.set(re)
      i.set(im)
      transform()
      wanted.forEach(([wr, wi], k) => {
        expect(r[k], `n ${n} k ${k}`).toBeCloseTo(wr!, 10)
        expect(i[k]).toBeCloseTo(wi!, 10)
      })
    }
  })
})

describe('Welch', () => {
  it('gives white noise its variance, spread evenly', () => {
    const { density, frequency, segments } = welch(noise(200_000, 5), 1000, 500)
    expect(segments).toBe(Math.floor((200_000 - 250) / 250))
    expect(density.reduce((s, d) => s + d, 0) * frequency[1]!).toBeNear(1, 0.01)
    expect(density.slice(10, 240).every(d => Math.abs(d - 0.002) < 0.0006)).toBe(true)
  })

  it('finds a sine in its bin, with half its squared amplitude', () => {
    const x = Float64Array.from({ length: 8192 }, (_, i) => 3 * Math.sin((2 * Math.PI * 50 * i) / 1024))
    const { density, frequency } = welch(x, 1024, 1024)
    const peak = density.indexOf(Math.max(...density))
    expect(frequency[peak]).toBe(50)
    expect(density.slice(peak - 3, peak + 4).reduce((s, d) => s + d, 0)).toBeCloseTo(4.5, 6)
  })
})

describe('frequency response', () => {
  it('knows a gain and a delay from noise, with full coherence', () => {
    const drive = noise(60_000, 8)
    const response = Float64Array.from(drive, (_, i) => -2.5 * (drive[i - 2] ?? 0))
    const { h1, h2, coherence, frequency } = frequencyResponse(drive, response, 100, 256)
    const k = 30
    expect(Math.hypot(h1.re[k]!, h1.im[k]!)).toBeNear(2.5, 0.001)
    expect(Math.hypot(h2.re[k]!, h2.im[k]!)).toBeNear(2.5, 0.0005)
    const phase = Math.atan2(h1.im[k]!, h1.re[k]!)
    expect(Math.cos(phase - (Math.PI - 2 * Math.PI * frequency[k]! * 0.02))).toBeCloseTo(1, 3)
    expect(coherence[k]).toBeGreaterThan(0.99)
  })

  it('loses coherence to noise on the response, and H1 stays unbiased where H2 does not', () => {
    const drive = noise(400_000, 2)
    const other = noise(400_000, 3)
    const { h1, h2, coherence } = frequencyResponse(
      drive,
      drive.map((v, i) => v + other[i]!),
      100,
      256,
    )
    const middle = (v: Float64Array) => v.slice(20, 110).reduce((s, x) => s + x, 0) / 90
    expect(middle(coherence)).toBeNear(0.5, 0.005)
    expect(middle(h1.re)).toBeNear(1, 0.002)
    expect(middle(h2.re)).toBeNear(2, 0.002)
  })
})

describe('shock response', () => {
  it('of a half sine peaks at 1.77 times its height for little damping, and follows it when stiff', () => {
    const [T, width] = [1e-5, 0.01]
    const a = Float64Array.from({ length: 6000 }, (_, i) =>
      i * T < width ? 100 * Math.sin((Math.PI * i * T) / width) : 0,
    )
    const f = octaveSteps(10, 5000, 12)
    const s = shockResponse(a, T, f, 1e4)
    // Harris' Shock and Vibration Handbook, ch. 8: 1.77 near f·τ = 0.81.
    const peak = Math.max(...s)
    expect(peak / 100).toBeCloseTo(1.77, 2)
    expect(f[s.indexOf(peak)]! * width).toBeNear(0.81, 0.02)
    expect(s.at(-1)! / 100).toBeNear(1, 0.02)
  })
})

describe('lag', () => {
  it('is positive when the second comes later, to a part of a sample', () => {
    const f = (t: number) => (t - 2) * Math.exp(-(((t - 2) / 0.2) ** 2))
    const at = (shift: number) => Float64Array.from({ length: 500 }, (_, i) => f(i * 0.01 - shift))
    const { lag, correlation, isAtLimit } = findLag(at(0), at(0.1234), 0.01, 0.5)
    expect(lag).toBeCloseTo(0.1234, 4)
    expect(correlation).toBeGreaterThan(0.99)
    expect(isAtLimit).toBe(false)
    expect(findLag(at(0), at(0.1234), 0.01, 0.05).isAtLimit).toBe(true)
  })

  it('refines by the parabola through three', () => expect(vertex(1, 4, 3)).toEqual({ offset: 0.25, height: 4.125 }))
})
