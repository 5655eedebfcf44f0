/** A plan for discrete Fourier transforms of one length: twiddles and work space, made once. */
export interface Fourier {
  readonly length: number
  /** In place, forward, unnormalised. */
  transform(re: Float64Array, im: Float64Array): void
}

/** Any length: radix 2 where it is a power of two, otherwise by a chirp (Bluestein). */
export const fourier = (length: number): Fourier => ((length & (length - 1)) === 0 ? powerOfTwo(length) : chirp(length))

function powerOfTwo(n: number): Fourier {
  const cos = Float64Array.from({ length: n / 2 }, (_, k) => Math.cos((2 * Math.PI * k) / n))
  const sin = Float64Array.from({ length: n / 2 }, (_, k) => -Math.sin((2 * Math.PI * k) / n))
  const swap = bitReversal(n)
  return {
    length: n,
    transform(re, im) {
      for (let i = 0; i < n; i++) {
        const j = swap[i]!
        if (j > i) {
          const [r, m] = [re[i]!, im[i]!]
          re[i] = re[j]!
          im[i] = im[j]!
          re[j] = r
          im[j] = m
        }
      }
      for (let half = 1, step = n / 2; half < n; half *= 2, step /= 2)
        for (let start = 0; start < n; start += 2 * half)
          for (let k = 0, a = start; k < half; k++, a++) {
            const b = a + half
            const [wr, wi] = [cos[k * step]!, sin[k * step]!]
            const [xr, xi] = [re[b]!, im[b]!]
            const tr = wr * xr - wi * xi
            const ti = wr * xi + wi * xr
            re[b] = re[a]! - tr
            im[b] = im[a]! - ti
            re[a]! += tr
            im[a]! += ti
          }
    },
  }
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
