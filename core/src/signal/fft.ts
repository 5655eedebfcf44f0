import { butterflies, plainSpace, type Butterflies } from '../kernels/butterflies'

/** A discrete Fourier transform of one length with its work space. */
export type Fourier = Butterflies

/** Any length: radix 4 and 2 where it is a power of two, otherwise by a chirp (Bluestein). */
export const fourier = (length: number): Fourier =>
  (length & (length - 1)) === 0 ? butterflies(length) : chirp(length)

/** A transform of any length as a convolution with a chirp, done in a power of two. @source Bluestein (1970) */
function chirp(n: number): Fourier {
  const m = 2 ** Math.ceil(Math.log2(2 * n))
  const inner = butterflies(m)
  // k² modulo 2n keeps the angle exact for long records.
  const angle = (k: number) => (Math.PI * Number((BigInt(k) * BigInt(k)) % BigInt(2 * n))) / n
  const cos = Float64Array.from({ length: n }, (_, k) => Math.cos(angle(k)))
  const sin = Float64Array.from({ length: n }, (_, k) => -Math.sin(angle(k)))
  const { re: ar, im: ai } = inner
  for (let k = 0; k < n; k++) {
    ar[k] = cos[k]!
    ai[k] = -sin[k]!
    if (k > 0) {
      ar[m - k] = cos[k]!
      ai[m - k] = -sin[k]!
    }
  }
  inner.transform()
  const [fr, fi] = [ar.slice(), ai.slice()]
  const space = plainSpace(n)
  const { re, im } = space
  return {
    ...space,
    transform() {
      ar.fill(0)
      ai.fill(0)
      for (let k = 0; k < n; k++) {
        ar[k] = re[k]! * cos[k]! - im[k]! * sin[k]!
        ai[k] = re[k]! * sin[k]! + im[k]! * cos[k]!
      }
      inner.transform()
      // Product with the chirp's transform, conjugated so that a second forward transform inverts.
      for (let k = 0; k < m; k++) {
        const r = ar[k]! * fr[k]! - ai[k]! * fi[k]!
        ai[k] = -(ar[k]! * fi[k]! + ai[k]! * fr[k]!)
        ar[k] = r
      }
      inner.transform()
      for (let k = 0; k < n; k++) {
        const [r, i] = [ar[k]! / m, -ai[k]! / m]
        re[k] = r * cos[k]! - i * sin[k]!
        im[k] = r * sin[k]! + i * cos[k]!
      }
    },
  }
}
