/** A plan for discrete Fourier transforms of one length: twiddles and work space, made once. */
export interface Fourier {
  readonly length: number
  /** In place, forward, unnormalised. */
  transform(re: Float64Array, im: Float64Array): void
}

/** Any length: radix 2 where it is a power of two, otherwise by a chirp (Bluestein). */
export const fourier = (length: number): Fourier => ((length & (length - 1)) === 0 ? powerOfTwo(length) : chirp(length))

/**
 * Radix 4 with a radix-2 stage first where the power is odd. Twiddles lie in the order in which each stage reads them;
 * the inner loops use plain locals, because pairs in brackets would be allocated.
 */
function powerOfTwo(n: number): Fourier {
  const swap = bitReversal(n)
  const stages = twiddles(n)
  return {
    length: n,
    transform(re, im) {
      for (let i = 0; i < n; i++) {
        const j = swap[i]!
        if (j <= i) continue
        const r = re[i]!
        const m = im[i]!
        re[i] = re[j]!
        im[i] = im[j]!
        re[j] = r
        im[j] = m
      }
      let quarter = 1
      if (Math.log2(n) % 2 === 1) {
        firstPairs(re, im, n)
        quarter = 2
      }
      for (const w of stages) {
        stage(re, im, n, quarter, w)
        quarter *= 4
      }
    },
  }
}

function firstPairs(re: Float64Array, im: Float64Array, n: number): void {
  for (let a = 0; a < n; a += 2) {
    const r = re[a + 1]!
    const i = im[a + 1]!
    re[a + 1] = re[a]! - r
    im[a + 1] = im[a]! - i
    re[a] = re[a]! + r
    im[a] = im[a]! + i
  }
}

/** Two radix-2 stages in one pass: blocks of 4·quarter, twiddles by sixes (w1, w2, w3 as cos, sin). */
function stage(re: Float64Array, im: Float64Array, n: number, quarter: number, w: Float64Array): void {
  for (let start = 0; start < n; start += 4 * quarter)
    for (let k = 0, t = 0; k < quarter; k++, t += 6) {
      const a = start + k
      // Bit reversal by twos puts the second and third quarter in each other's place.
      const b = a + 2 * quarter
      const c = a + quarter
      const d = a + 3 * quarter
      const br = re[b]! * w[t]! - im[b]! * w[t + 1]!
      const bi = re[b]! * w[t + 1]! + im[b]! * w[t]!
      const cr = re[c]! * w[t + 2]! - im[c]! * w[t + 3]!
      const ci = re[c]! * w[t + 3]! + im[c]! * w[t + 2]!
      const dr = re[d]! * w[t + 4]! - im[d]! * w[t + 5]!
      const di = re[d]! * w[t + 5]! + im[d]! * w[t + 4]!
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

function twiddles(n: number): Float64Array[] {
  const stages: Float64Array[] = []
  for (let quarter = Math.log2(n) % 2 === 1 ? 2 : 1; quarter * 4 <= n; quarter *= 4) {
    const w = new Float64Array(6 * quarter)
    for (let k = 0; k < quarter; k++)
      for (let m = 1; m <= 3; m++) {
        const angle = (-2 * Math.PI * k * m) / (4 * quarter)
        w[6 * k + 2 * (m - 1)] = Math.cos(angle)
        w[6 * k + 2 * (m - 1) + 1] = Math.sin(angle)
      }
    stages.push(w)
  }
  return stages
}

function bitReversal(n: number): Uint32Array {
  const reversed = new Uint32Array(n)
  for (let i = 1; i < n; i++) reversed[i] = (reversed[i >> 1]! >> 1) | (i & 1 ? n >> 1 : 0)
  return reversed
}

/** A transform of any length as a convolution with a chirp, done in a power of two. @source Bluestein (1970) */
function chirp(n: number): Fourier {
  const m = 2 ** Math.ceil(Math.log2(2 * n))
  const inner = powerOfTwo(m)
  // k² modulo 2n keeps the angle exact for long records.
  const angle = (k: number) => (Math.PI * Number((BigInt(k) * BigInt(k)) % BigInt(2 * n))) / n
  const cos = Float64Array.from({ length: n }, (_, k) => Math.cos(angle(k)))
  const sin = Float64Array.from({ length: n }, (_, k) => -Math.sin(angle(k)))
  const [fr, fi] = [new Float64Array(m), new Float64Array(m)]
  for (let k = 0; k < n; k++) {
    fr[k] = cos[k]!
    fi[k] = -sin[k]!
    if (k > 0) {
      fr[m - k] = cos[k]!
      fi[m - k] = -sin[k]!
    }
  }
  inner.transform(fr, fi)
  const [ar, ai] = [new Float64Array(m), new Float64Array(m)]
  return {
    length: n,
    transform(re, im) {
      ar.fill(0)
      ai.fill(0)
      for (let k = 0; k < n; k++) {
        ar[k] = re[k]! * cos[k]! - im[k]! * sin[k]!
        ai[k] = re[k]! * sin[k]! + im[k]! * cos[k]!
      }
      inner.transform(ar, ai)
      // Product with the chirp's transform, conjugated so that a second forward transform inverts.
      for (let k = 0; k < m; k++) {
        const r = ar[k]! * fr[k]! - ai[k]! * fi[k]!
        ai[k] = -(ar[k]! * fi[k]! + ai[k]! * fr[k]!)
        ar[k] = r
      }
      inner.transform(ar, ai)
      for (let k = 0; k < n; k++) {
        const [r, i] = [ar[k]! / m, -ai[k]! / m]
        re[k] = r * cos[k]! - i * sin[k]!
        im[k] = r * sin[k]! + i * cos[k]!
      }
    },
  }
}
