import { kernelSpace } from './module'

/**
 * Work space for the spectra of one length: fill `re` and `im`, weigh, transform (forward, unnormalised, in place),
 * read or add up.
 */
export interface Butterflies {
  readonly re: Float64Array
  readonly im: Float64Array
  /** What `weigh` multiplies by after it has taken the mean off; yours to fill. */
  readonly window: Float64Array
  /** Where `addPower` adds |X|² line by line; yours to clear. */
  readonly power: Float64Array
  weigh(): void
  transform(): void
  addPower(): void
}

/** Below this the copying of tables costs more than the kernel gains. */
const WORTH_COMPILING = 256

export const butterflies = (n: number): Butterflies =>
  (n >= WORTH_COMPILING ? compiledButterflies(n) : null) ?? plainButterflies(n)

/** Radix 4 with a radix-2 stage first where the power is odd, in TypeScript. */
export function plainButterflies(n: number): Butterflies {
  const space = plainSpace(n)
  const { re, im } = space
  const swap = exchanges(n)
  const stages = stagesOf(n)
  return {
    ...space,
    transform() {
      exchange(re, swap)
      exchange(im, swap)
      if (isOddPower(n)) {
        firstPairs(re)
        firstPairs(im)
      } else firstQuads(re, im)
      for (const { quarter, w } of stages) stage(re, im, quarter, w)
    },
  }
}

/** Work space of any length, all but the transform. */
export function plainSpace(n: number): Omit<Butterflies, 'transform'> {
  const [re, im, window, power] = [new Float64Array(n), new Float64Array(n), new Float64Array(n), new Float64Array(n)]
  return {
    re,
    im,
    window,
    power,
    weigh() {
      weigh(re, window)
      weigh(im, window)
    },
    addPower() {
      for (let k = 0; k < n; k++) power[k] = power[k]! + (re[k]! * re[k]! + im[k]! * im[k]!)
    },
  }
}

/** The same passes by the compiled kernels, over a memory of their own: re, im, window, power, twiddles, exchanges. */
export function compiledButterflies(n: number): Butterflies | null {
  const swap = exchanges(n)
  const stages = stagesOf(n)
  const space = kernelSpace(8 * (4 * n + stages.reduce((s, { w }) => s + w.length, 0)) + 4 * swap.length)
  if (!space) return null
  const { kernels, memory } = space
  const [re, im, window, power] = [0, 8 * n, 16 * n, 24 * n]
  let free = 32 * n
  const placed = stages.map(({ quarter, w }) => {
    const at = free
    new Float64Array(memory, at, w.length).set(w)
    free += 8 * w.length
    return { quarter, at }
  })
  new Uint32Array(memory, free, swap.length).set(swap)
  const view = (at: number) => new Float64Array(memory, at, n)
  return {
    re: view(re),
    im: view(im),
    window: view(window),
    power: view(power),
    weigh() {
      kernels.weigh(re, window, n)
      kernels.weigh(im, window, n)
    },
    transform() {
      kernels.exchange(re, im, free, swap.length / 2)
      if (isOddPower(n)) kernels.firstPairs(re, im, n)
      else kernels.firstQuads(re, im, n)
      for (const { quarter, at } of placed) kernels.stage(re, im, n, quarter, at)
    },
    addPower: () => kernels.addPower(re, im, n, power),
  }
}

/** Sum in four lanes, so that the compiled kernel may add two at a time and give the same bits. */
function total(x: Float64Array): number {
  let [a, b, c, d] = [0, 0, 0, 0]
  const fours = x.length - (x.length % 4)
  for (let i = 0; i < fours; i += 4) {
    a += x[i]!
    b += x[i + 1]!
    c += x[i + 2]!
    d += x[i + 3]!
  }
  let sum = a + c + (b + d)
  for (let i = fours; i < x.length; i++) sum += x[i]!
  return sum
}

function weigh(x: Float64Array, window: Float64Array): void {
  const mean = total(x) / x.length
  for (let i = 0; i < x.length; i++) x[i] = (x[i]! - mean) * window[i]!
}

const isOddPower = (n: number): boolean => Math.log2(n) % 2 === 1 || n < 4

/** Pairs of indices that bit reversal exchanges. */
function exchanges(n: number): Uint32Array {
  const reversed = new Uint32Array(n)
  for (let i = 1; i < n; i++) reversed[i] = (reversed[i >> 1]! >> 1) | (i & 1 ? n >> 1 : 0)
  const pairs = new Uint32Array(n)
  let at = 0
  for (let i = 0; i < n; i++) {
    if (reversed[i]! <= i) continue
    pairs[at++] = i
    pairs[at++] = reversed[i]!
  }
  return pairs.slice(0, at)
}

interface Stage {
  quarter: number
  /** For each two frequencies the cosines and sines of three twiddles: c1 c1′ s1 s1′ c2 c2′ s2 s2′ c3 c3′ s3 s3′. */
  w: Float64Array
}

/** The stages after the first; each is four times as wide as the one before. */
function stagesOf(n: number): Stage[] {
  const stages: Stage[] = []
  for (let quarter = isOddPower(n) ? 2 : 4; quarter * 4 <= n; quarter *= 4) {
    const w = new Float64Array(6 * quarter)
    for (let k = 0; k < quarter; k++)
      for (let m = 1; m <= 3; m++) {
        const angle = (-2 * Math.PI * k * m) / (4 * quarter)
        const at = twiddleAt(k) + 4 * (m - 1)
        w[at] = Math.cos(angle)
        w[at + 2] = Math.sin(angle)
      }
    stages.push({ quarter, w })
  }
  return stages
}

const twiddleAt = (k: number): number => 6 * (k - (k & 1)) + (k & 1)

function exchange(x: Float64Array, pairs: Uint32Array): void {
  for (let p = 0; p < pairs.length; p += 2) {
    const i = pairs[p]!
    const j = pairs[p + 1]!
    const held = x[i]!
    x[i] = x[j]!
    x[j] = held
  }
}

function firstPairs(x: Float64Array): void {
  for (let a = 0; a + 1 < x.length; a += 2) {
    const held = x[a]!
    x[a] = held + x[a + 1]!
    x[a + 1] = held - x[a + 1]!
  }
}

/** Bit reversal by twos has put the second and third of four in each other's place. */
function firstQuads(re: Float64Array, im: Float64Array): void {
  for (let a = 0; a < re.length; a += 4) {
    const pr = re[a]! + re[a + 1]!
    const pi = im[a]! + im[a + 1]!
    const mr = re[a]! - re[a + 1]!
    const mi = im[a]! - im[a + 1]!
    const sr = re[a + 2]! + re[a + 3]!
    const si = im[a + 2]! + im[a + 3]!
    const er = re[a + 2]! - re[a + 3]!
    const ei = im[a + 2]! - im[a + 3]!
    re[a] = pr + sr
    im[a] = pi + si
    re[a + 1] = mr + ei
    im[a + 1] = mi - er
    re[a + 2] = pr - sr
    im[a + 2] = pi - si
    re[a + 3] = mr - ei
    im[a + 3] = mi + er
  }
}

/** Two radix-2 stages in one pass over blocks of 4·quarter. Plain locals: pairs in brackets would be allocated. */
function stage(re: Float64Array, im: Float64Array, quarter: number, w: Float64Array): void {
  const n = re.length
  for (let start = 0; start < n; start += 4 * quarter)
    for (let k = 0; k < quarter; k++) {
      const t = 6 * (k - (k & 1)) + (k & 1)
      const a = start + k
      const b = a + 2 * quarter
      const c = a + quarter
      const d = a + 3 * quarter
      const br = re[b]! * w[t]! - im[b]! * w[t + 2]!
      const bi = re[b]! * w[t + 2]! + im[b]! * w[t]!
      const cr = re[c]! * w[t + 4]! - im[c]! * w[t + 6]!
      const ci = re[c]! * w[t + 6]! + im[c]! * w[t + 4]!
      const dr = re[d]! * w[t + 8]! - im[d]! * w[t + 10]!
      const di = re[d]! * w[t + 10]! + im[d]! * w[t + 8]!
      const pr = re[a]! + cr
      const pi = im[a]! + ci
      const mr = re[a]! - cr
      const mi = im[a]! - ci
      const sr = br + dr
      const si = bi + di
      const er = br - dr
      const ei = bi - di
      re[a] = pr + sr
      im[a] = pi + si
      re[b] = pr - sr
      im[b] = pi - si
      re[c] = mr + ei
      im[c] = mi - er
      re[d] = mr - ei
      im[d] = mi + er
    }
}
