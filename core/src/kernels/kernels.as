// AssemblyScript, not TypeScript: compiled by scripts/build-kernels.mjs into binary.ts. Addresses are bytes into a memory
// that the caller lays out; nothing is allocated here. butterflies.ts, extremes.ts and blocks.ts hold the twins that give the same bits.

/** Exchanges entries with their bit-reversed partners; `swap` holds pairs of indices. */
export function exchange(re: usize, im: usize, swap: usize, pairs: i32): void {
  for (let p = 0; p < pairs; p++) {
    const i = (<usize>load<u32>(swap + ((<usize>p) << 3))) << 3
    const j = (<usize>load<u32>(swap + ((<usize>p) << 3), 4)) << 3
    const r = load<f64>(re + i)
    const m = load<f64>(im + i)
    store<f64>(re + i, load<f64>(re + j))
    store<f64>(im + i, load<f64>(im + j))
    store<f64>(re + j, r)
    store<f64>(im + j, m)
  }
}

/** Radix-2 butterflies of neighbours. */
export function firstPairs(re: usize, im: usize, n: i32): void {
  pairsOf(re, n)
  pairsOf(im, n)
}

function pairsOf(x: usize, n: i32): void {
  const end = x + ((<usize>n) << 3)
  for (; x < end; x += 16) {
    const a = load<f64>(x)
    const b = load<f64>(x, 8)
    store<f64>(x, a + b)
    store<f64>(x, a - b, 8)
  }
}

/** Radix-4 butterflies of four neighbours, in bit-reversed order. */
export function firstQuads(re: usize, im: usize, n: i32): void {
  const end = re + ((<usize>n) << 3)
  for (; re < end; re += 32, im += 32) {
    const ar = load<f64>(re)
    const ai = load<f64>(im)
    const cr = load<f64>(re, 8)
    const ci = load<f64>(im, 8)
    const br = load<f64>(re, 16)
    const bi = load<f64>(im, 16)
    const dr = load<f64>(re, 24)
    const di = load<f64>(im, 24)
    const pr = ar + cr
    const pi = ai + ci
    const mr = ar - cr
    const mi = ai - ci
    const sr = br + dr
    const si = bi + di
    const er = br - dr
    const ei = bi - di
    store<f64>(re, pr + sr)
    store<f64>(im, pi + si)
    store<f64>(re, mr + ei, 8)
    store<f64>(im, mi - er, 8)
    store<f64>(re, pr - sr, 16)
    store<f64>(im, pi - si, 16)
    store<f64>(re, mr - ei, 24)
    store<f64>(im, mi + er, 24)
  }
}

/** One radix-4 stage over blocks of 4·quarter, two frequencies at a time; `w` holds cos, cos, sin, sin of three twiddles for each two. */
export function stage(re: usize, im: usize, n: i32, quarter: i32, w: usize): void {
  const size = (<usize>n) << 3
  const q = (<usize>quarter) << 3
  for (let start: usize = 0; start < size; start += q << 2) {
    let t = w
    let ra = re + start
    let ia = im + start
    const end = ra + q
    for (; ra < end; ra += 16, ia += 16, t += 96) {
      const rc = ra + q
      const ic = ia + q
      const rb = rc + q
      const ib = ic + q
      const rd = rb + q
      const id = ib + q
      let x = v128.load(rb)
      let y = v128.load(ib)
      let c = v128.load(t)
      let s = v128.load(t, 16)
      const br = f64x2.sub(f64x2.mul(x, c), f64x2.mul(y, s))
      const bi = f64x2.add(f64x2.mul(x, s), f64x2.mul(y, c))
      x = v128.load(rc)
      y = v128.load(ic)
      c = v128.load(t, 32)
      s = v128.load(t, 48)
      const cr = f64x2.sub(f64x2.mul(x, c), f64x2.mul(y, s))
      const ci = f64x2.add(f64x2.mul(x, s), f64x2.mul(y, c))
      x = v128.load(rd)
      y = v128.load(id)
      c = v128.load(t, 64)
      s = v128.load(t, 80)
      const dr = f64x2.sub(f64x2.mul(x, c), f64x2.mul(y, s))
      const di = f64x2.add(f64x2.mul(x, s), f64x2.mul(y, c))
      const ar = v128.load(ra)
      const ai = v128.load(ia)
      const pr = f64x2.add(ar, cr)
      const pi = f64x2.add(ai, ci)
      const mr = f64x2.sub(ar, cr)
      const mi = f64x2.sub(ai, ci)
      const sr = f64x2.add(br, dr)
      const si = f64x2.add(bi, di)
      const er = f64x2.sub(br, dr)
      const ei = f64x2.sub(bi, di)
      v128.store(ra, f64x2.add(pr, sr))
      v128.store(ia, f64x2.add(pi, si))
      v128.store(rb, f64x2.sub(pr, sr))
      v128.store(ib, f64x2.sub(pi, si))
      v128.store(rc, f64x2.add(mr, ei))
      v128.store(ic, f64x2.sub(mi, er))
      v128.store(rd, f64x2.sub(mr, ei))
      v128.store(id, f64x2.add(mi, er))
    }
  }
}

/**
 * Minima and maxima, interleaved, of blocks of eight float32 samples, four blocks at a time. Gaps (NaN) are passed over,
 * a block of gaps only gives NaN; a minimum of zero is never −0, so that the order of comparison does not show.
 */
export function samples32(from: usize, fours: i32, into: usize): void {
  const high = f32x4.splat(Infinity)
  const low = f32x4.splat(-Infinity)
  const end = from + ((<usize>fours) << 7)
  for (; from < end; from += 128, into += 32) {
    let x = v128.load(from)
    let y = v128.load(from, 16)
    const a = f32x4.pmin(f32x4.pmin(high, x), y)
    const A = f32x4.pmax(f32x4.pmax(low, x), y)
    x = v128.load(from, 32)
    y = v128.load(from, 48)
    const b = f32x4.pmin(f32x4.pmin(high, x), y)
    const B = f32x4.pmax(f32x4.pmax(low, x), y)
    x = v128.load(from, 64)
    y = v128.load(from, 80)
    const c = f32x4.pmin(f32x4.pmin(high, x), y)
    const C = f32x4.pmax(f32x4.pmax(low, x), y)
    x = v128.load(from, 96)
    y = v128.load(from, 112)
    const d = f32x4.pmin(f32x4.pmin(high, x), y)
    const D = f32x4.pmax(f32x4.pmax(low, x), y)
    const ab = f32x4.pmin(v128.shuffle<f32>(a, b, 0, 1, 4, 5), v128.shuffle<f32>(a, b, 2, 3, 6, 7))
    const cd = f32x4.pmin(v128.shuffle<f32>(c, d, 0, 1, 4, 5), v128.shuffle<f32>(c, d, 2, 3, 6, 7))
    const AB = f32x4.pmax(v128.shuffle<f32>(A, B, 0, 1, 4, 5), v128.shuffle<f32>(A, B, 2, 3, 6, 7))
    const CD = f32x4.pmax(v128.shuffle<f32>(C, D, 0, 1, 4, 5), v128.shuffle<f32>(C, D, 2, 3, 6, 7))
    let lo = f32x4.pmin(v128.shuffle<f32>(ab, cd, 0, 2, 4, 6), v128.shuffle<f32>(ab, cd, 1, 3, 5, 7))
    let hi = f32x4.pmax(v128.shuffle<f32>(AB, CD, 0, 2, 4, 6), v128.shuffle<f32>(AB, CD, 1, 3, 5, 7))
    const empty = f32x4.gt(lo, hi)
    lo = v128.bitselect(f32x4.splat(NaN), f32x4.add(lo, f32x4.splat(0)), empty)
    hi = v128.bitselect(f32x4.splat(NaN), f32x4.add(hi, f32x4.splat(0)), empty)
    v128.store(into, v128.shuffle<f32>(lo, hi, 0, 4, 1, 5))
    v128.store(into, v128.shuffle<f32>(lo, hi, 2, 6, 3, 7), 16)
  }
}

/** The same of blocks of eight pairs, one at a time. */
export function pairs32(from: usize, blocks: i32, into: usize): void {
  const high = f32x4.splat(Infinity)
  const low = f32x4.splat(-Infinity)
  const end = from + ((<usize>blocks) << 6)
  for (; from < end; from += 64, into += 8) {
    const a = v128.load(from)
    const b = v128.load(from, 16)
    const c = v128.load(from, 32)
    const d = v128.load(from, 48)
    // Minima are wanted of the even lanes, maxima of the odd ones.
    let lo = f32x4.pmin(f32x4.pmin(f32x4.pmin(f32x4.pmin(high, a), b), c), d)
    let hi = f32x4.pmax(f32x4.pmax(f32x4.pmax(f32x4.pmax(low, a), b), c), d)
    lo = f32x4.pmin(lo, v128.shuffle<f32>(lo, lo, 2, 3, 0, 1))
    hi = f32x4.pmax(hi, v128.shuffle<f32>(hi, hi, 2, 3, 0, 1))
    const least = f32x4.extract_lane(lo, 0)
    const most = f32x4.extract_lane(hi, 1)
    store<f32>(into, least > most ? NaN : least + 0)
    store<f32>(into, least > most ? NaN : most + 0, 4)
  }
}

/** As samples32, of float64 samples, two blocks at a time. */
export function samples64(from: usize, twos: i32, into: usize): void {
  const high = f64x2.splat(Infinity)
  const low = f64x2.splat(-Infinity)
  const end = from + ((<usize>twos) << 7)
  for (; from < end; from += 128, into += 32) {
    let lo = high
    let hi = low
    let Lo = high
    let Hi = low
    for (let at = from; at < from + 64; at += 16) {
      const x = v128.load(at)
      const y = v128.load(at, 64)
      lo = f64x2.pmin(lo, x)
      hi = f64x2.pmax(hi, x)
      Lo = f64x2.pmin(Lo, y)
      Hi = f64x2.pmax(Hi, y)
    }
    pair64(f64x2.pmin(v128.shuffle<f64>(lo, Lo, 0, 2), v128.shuffle<f64>(lo, Lo, 1, 3)), f64x2.pmax(v128.shuffle<f64>(hi, Hi, 0, 2), v128.shuffle<f64>(hi, Hi, 1, 3)), into)
  }
}

/** As pairs32, of float64 pairs, two blocks at a time. */
export function pairs64(from: usize, twos: i32, into: usize): void {
  const end = from + ((<usize>twos) << 8)
  for (; from < end; from += 256, into += 32) {
    let lo = f64x2.splat(Infinity)
    let hi = f64x2.splat(-Infinity)
    for (let at = from; at < from + 128; at += 16) {
      const x = v128.load(at)
      const y = v128.load(at, 128)
      lo = f64x2.pmin(lo, v128.shuffle<f64>(x, y, 0, 2))
      hi = f64x2.pmax(hi, v128.shuffle<f64>(x, y, 1, 3))
    }
    pair64(lo, hi, into)
  }
}

// @ts-ignore: a decorator of the other language
@inline
function pair64(lo: v128, hi: v128, into: usize): void {
  const empty = f64x2.gt(lo, hi)
  lo = v128.bitselect(f64x2.splat(NaN), f64x2.add(lo, f64x2.splat(0)), empty)
  hi = v128.bitselect(f64x2.splat(NaN), f64x2.add(hi, f64x2.splat(0)), empty)
  v128.store(into, v128.shuffle<f64>(lo, hi, 0, 2))
  v128.store(into, v128.shuffle<f64>(lo, hi, 1, 3), 16)
}

/** Sum by four lanes, as the twin does it: lane i takes every fourth value. */
function total(x: usize, n: i32): f64 {
  let a = f64x2.splat(0)
  let b = f64x2.splat(0)
  const fours = x + ((<usize>(n & ~3)) << 3)
  const end = x + ((<usize>n) << 3)
  for (; x < fours; x += 32) {
    a = f64x2.add(a, v128.load(x))
    b = f64x2.add(b, v128.load(x, 16))
  }
  const s = f64x2.add(a, b)
  let sum = f64x2.extract_lane(s, 0) + f64x2.extract_lane(s, 1)
  for (; x < end; x += 8) sum += load<f64>(x)
  return sum
}

/** Takes the mean off a segment and weighs it with a window; `n` is a multiple of four. */
export function weigh(x: usize, window: usize, n: i32): void {
  const mean = f64x2.splat(total(x, n) / <f64>n)
  const end = x + ((<usize>n) << 3)
  for (; x < end; x += 16, window += 16) v128.store(x, f64x2.mul(f64x2.sub(v128.load(x), mean), v128.load(window)))
}

/** Adds |X|² of a complex transform, line by line; `n` is even. */
export function addPower(re: usize, im: usize, n: i32, sum: usize): void {
  const end = re + ((<usize>n) << 3)
  for (; re < end; re += 16, im += 16, sum += 16) {
    const r = v128.load(re)
    const i = v128.load(im)
    v128.store(sum, f64x2.add(v128.load(sum), f64x2.add(f64x2.mul(r, r), f64x2.mul(i, i))))
  }
}

/** Blocks of float64, `n` of them a multiple of two: out = a ∘ b. */
export function plus(out: usize, a: usize, b: usize, n: i32): void {
  for (const end = out + ((<usize>n) << 3); out < end; out += 16, a += 16, b += 16) v128.store(out, f64x2.add(v128.load(a), v128.load(b)))
}

export function minus(out: usize, a: usize, b: usize, n: i32): void {
  for (const end = out + ((<usize>n) << 3); out < end; out += 16, a += 16, b += 16) v128.store(out, f64x2.sub(v128.load(a), v128.load(b)))
}

export function times(out: usize, a: usize, b: usize, n: i32): void {
  for (const end = out + ((<usize>n) << 3); out < end; out += 16, a += 16, b += 16) v128.store(out, f64x2.mul(v128.load(a), v128.load(b)))
}

export function over(out: usize, a: usize, b: usize, n: i32): void {
  for (const end = out + ((<usize>n) << 3); out < end; out += 16, a += 16, b += 16) v128.store(out, f64x2.div(v128.load(a), v128.load(b)))
}

/**
 * Numbers of whole lines of delimited text, row-major; a byte 10 stands after the last. `state` holds, as i32: position,
 * end, line, rows, column, filled cells, delimiter, width, columns, whether a cell was just ended, first row, short row,
 * cells of the short row. `slots` names the output column of each cell or −1; `tens` holds 1, 10 … 1e22.
 *
 * @returns 0 at the end, 1 at a cell that needs more than this, 2 where a row has too many cells, 3 where one had too few
 */
export function scan(state: usize, output: usize, slots: usize, tens: usize): i32 {
  let p = <usize>load<i32>(state)
  const to = <usize>load<i32>(state, 4)
  let line = load<i32>(state, 8)
  let rows = load<i32>(state, 12)
  let column = load<i32>(state, 16)
  let filled = load<i32>(state, 20)
  const delimiter = load<i32>(state, 24)
  const decimal = load<i32>(state, 52)
  const width = load<i32>(state, 28)
  const columns = load<i32>(state, 32)
  let ended = load<i32>(state, 36)
  let c: i32
  while (true) {
    if (!ended) {
      if (column == 0) {
        if (p >= to) break
        c = load<u8>(p)
        if (c == 10 || c == 13 || c == 32 || c == 9 || c == 35) {
          let q = p
          if (c == 35) while (load<u8>(q) != 10 && load<u8>(q) != 13) q++
          else while (load<u8>(q) == 32 || load<u8>(q) == 9) q++
          c = load<u8>(q)
          if (c == 10 || c == 13) {
            p = q + (c == 13 && load<u8>(q, 1) == 10 && q + 1 < to ? 2 : 1)
            line++
            continue
          }
        }
        if (load<i32>(state, 44) != 0) return 3
        if (load<i32>(state, 40) == 0) store<i32>(state, line, 40)
        filled = 0
      }
      const start = p
      c = load<u8>(p)
      while (c == 32 || (c == 9 && delimiter != 9)) c = load<u8>(++p)
      const first = p
      const negative = c == 45
      if (negative || c == 43) c = load<u8>(++p)
      const body = p
      let mantissa: u64 = 0
      let d = c - 48
      while (<u32>d <= 9) {
        mantissa = mantissa * 10 + d
        c = load<u8>(++p)
        d = c - 48
      }
      let seen = <i32>(p - body)
      let scale = 0
      if (c == decimal) {
        const fraction = p + 1
        c = load<u8>(++p)
        d = c - 48
        while (<u32>d <= 9) {
          mantissa = mantissa * 10 + d
          c = load<u8>(++p)
          d = c - 48
        }
        scale = <i32>(fraction - p)
        seen -= scale
      }
      const digits = seen
      if (seen > 0 && (c == 69 || c == 101)) {
        let q = p + 1
        let e: i32 = load<u8>(q)
        const down = e == 45
        if (down || e == 43) e = load<u8>(++q)
        const from = q
        let exponent = 0
        while (e >= 48 && e <= 57 && exponent < 1000) {
          exponent = exponent * 10 + e - 48
          e = load<u8>(++q)
        }
        if (q > from) {
          scale += down ? -exponent : exponent
          p = q
          c = e
        }
      }
      while (c == 32 || (c == 9 && delimiter != 9)) c = load<u8>(++p)
      const plain = c == delimiter || c == 10 || c == 13
      const slot = column < width ? load<i32>(slots + ((<usize>column) << 2)) : -1
      const at = output + ((<usize>(rows * columns + slot)) << 3)
      if (plain && digits > 0 && digits <= 19 && mantissa <= 9007199254740991 && scale <= 22 && scale >= -22) {
        if (slot >= 0) {
          const m = <f64>mantissa
          const size = scale < 0 ? m / load<f64>(tens + ((<usize>-scale) << 3)) : m * load<f64>(tens + ((<usize>scale) << 3))
          store<f64>(at, negative ? -size : size)
        }
        filled = column + 1
      } else if (plain && p == first) {
        if (slot >= 0) store<f64>(at, NaN)
      } else {
        store<i32>(state, <i32>start)
        store<i32>(state, line, 8)
        store<i32>(state, rows, 12)
        store<i32>(state, column, 16)
        store<i32>(state, filled, 20)
        store<i32>(state, 0, 36)
        return 1
      }
    }
    ended = 0
    column++
    c = load<u8>(p)
    if (c == delimiter && p < to) {
      p++
      continue
    }
    if (filled > width) {
      store<i32>(state, line, 8)
      store<i32>(state, filled, 20)
      return 2
    }
    if (column < width) {
      store<i32>(state, line, 44)
      store<i32>(state, column, 48)
    } else rows++
    if (p < to) p += c == 13 && p + 1 < to && load<u8>(p, 1) == 10 ? 2 : 1
    line++
    column = 0
  }
  store<i32>(state, <i32>p)
  store<i32>(state, line, 8)
  store<i32>(state, rows, 12)
  return 0
}

/**
 * Numbers as whole counts over `scale`: differences, folded to positive, in groups of 64. A group is one byte that says how
 * many bits its widest difference has, then all of them in so many bits each, lowest first. A gap (NaN) counts as −2³¹.
 *
 * @param group  room for 64 u32
 * @returns bytes written to `out`; 0 where a number would not come back the same
 */
export function pack(values: usize, n: i32, scale: f64, group: usize, out: usize): i32 {
  const begin = out
  const end = values + ((<usize>n) << 3)
  let before = 0
  while (values < end) {
    const stop = min(end, values + 512)
    let any: u32 = 0
    let g = group
    for (; values < stop; values += 8, g += 4) {
      const v = load<f64>(values)
      const r = Math.floor(v * scale + 0.5)
      let count: i32
      if (r / scale == v && r > -2147483648.0 && r < 2147483648.0) count = <i32>r
      else if (v != v) count = -2147483648
      else return 0
      const difference = count - before
      before = count
      const folded = (difference << 1) ^ (difference >> 31)
      any |= <u32>folded
      store<i32>(g, folded)
    }
    const width = <u32>(32 - clz(any))
    store<u8>(out++, <u8>width)
    if (width == 0) continue
    const last = out + (((<usize>(g - group) >> 2) * <usize>width + 7) >> 3)
    let held: u64 = 0
    let bits: u32 = 0
    for (let k = group; k < g; k += 4) {
      held |= (<u64>load<u32>(k)) << bits
      bits += width
      if (bits >= 32) {
        store<u32>(out, <u32>held)
        out += 4
        held >>= 32
        bits -= 32
      }
    }
    store<u32>(out, <u32>held)
    out = last
  }
  return <i32>(out - begin)
}

/** The numbers again; a few bytes beyond the packed ones are read. */
export function unpack(packed: usize, n: i32, scale: f64, values: usize): void {
  const end = values + ((<usize>n) << 3)
  let before = 0
  while (values < end) {
    const stop = min(end, values + 512)
    const width = <u32>load<u8>(packed++)
    const last = packed + (((<usize>(stop - values) >> 3) * <usize>width + 7) >> 3)
    const mask: u64 = ((<u64>1) << width) - 1
    let held: u64 = 0
    let bits: u32 = 0
    for (; values < stop; values += 8) {
      if (bits < width) {
        held |= (<u64>load<u32>(packed)) << bits
        packed += 4
        bits += 32
      }
      const folded = <u32>(held & mask)
      held >>= width
      bits -= width
      before += <i32>(folded >>> 1) ^ -(<i32>folded & 1)
      store<f64>(values, before == -2147483648 ? NaN : <f64>before / scale)
    }
    packed = last
  }
}

/**
 * What a chunk is drawn and summed up by: minima at `low` and maxima at `high` of each 64 numbers, NaN where all are gaps;
 * at `found` minimum, maximum, sum and how many numbers, as f64. Even and odd samples are summed apart.
 */
export function outline(values: usize, n: i32, low: usize, high: usize, found: usize): void {
  const end = values + ((<usize>n) << 3)
  const none = f64x2.splat(Infinity)
  const one = f64x2.splat(1)
  let least = Infinity
  let most = -Infinity
  let sum = f64x2.splat(0)
  let count = f64x2.splat(0)
  while (values < end) {
    const stop = min(end, values + 512)
    let lo = none
    let hi = f64x2.splat(-Infinity)
    for (; values + 16 <= stop; values += 16) {
      const v = v128.load(values)
      const is = f64x2.eq(v, v)
      lo = f64x2.pmin(lo, v)
      hi = f64x2.pmax(hi, v)
      sum = f64x2.add(sum, v128.and(v, is))
      count = f64x2.add(count, v128.and(one, is))
    }
    // A zero is never negative.
    let a = min(f64x2.extract_lane(lo, 0), f64x2.extract_lane(lo, 1)) + 0.0
    let b = max(f64x2.extract_lane(hi, 0), f64x2.extract_lane(hi, 1)) + 0.0
    if (values < stop) {
      const v = load<f64>(values)
      values += 8
      if (v < a) a = v + 0.0
      if (v > b) b = v + 0.0
      if (v == v) {
        sum = f64x2.replace_lane(sum, 0, f64x2.extract_lane(sum, 0) + v)
        count = f64x2.replace_lane(count, 0, f64x2.extract_lane(count, 0) + 1)
      }
    }
    store<f64>(low, a > b ? NaN : a)
    store<f64>(high, a > b ? NaN : b)
    low += 8
    high += 8
    if (a < least) least = a
    if (b > most) most = b
  }
  store<f64>(found, least)
  store<f64>(found, most, 8)
  store<f64>(found, f64x2.extract_lane(sum, 0) + f64x2.extract_lane(sum, 1), 16)
  store<f64>(found, f64x2.extract_lane(count, 0) + f64x2.extract_lane(count, 1), 24)
}

/**
 * One look along a channel, for health: f64 minimum and maximum at `found`, then as i32 gaps, first gap, start of the first
 * stretch of `flat` equal samples (−1 where there is none), and how many jumps: samples, written to `jumps`, that are more
 * than `factor` times the running mean of the last five steps away from the one before.
 */
export function survey(values: usize, n: i32, flat: i32, factor: f64, found: usize, jumps: usize): void {
  let least = Infinity
  let most = -Infinity
  let gaps = 0
  let firstGap = -1
  let flatStart = -1
  let start = 0
  let last = NaN
  let mean = 0.0
  let count = 0
  for (let i = 0; i < n; i++) {
    const v = load<f64>(values + ((<usize>i) << 3))
    if (v < least) least = v
    if (v > most) most = v
    if (v != v) {
      if (gaps++ == 0) firstGap = i
    }
    if (v != last) start = i
    else if (i - start + 1 == flat && flatStart < 0) flatStart = start
    if (i > 0) {
      const jump = Math.abs(v - last)
      if (jump > factor * mean) {
        store<u32>(jumps + ((<usize>count) << 2), i)
        count++
      }
      if (jump == jump) mean = 0.8 * mean + 0.2 * jump
    }
    last = v
  }
  store<f64>(found, least)
  store<f64>(found, most, 8)
  store<i32>(found, gaps, 16)
  store<i32>(found, firstGap, 20)
  store<i32>(found, flatStart, 24)
  store<i32>(found, count, 28)
}
