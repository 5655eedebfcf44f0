import type { Kind } from '../quantity/index'

/** A figure as plain data in SI; the interface converts, draws and prints it. */
export interface Figure {
  x: Axis
  y: Axis
  series: Series[]
  /** Straight marks across the figure. */
  lines: { axis: 'x' | 'y'; value: number; label: string }[]
  /** Ranges of x that mean something: zero windows, steps. */
  bands?: { from: number; to: number; label: string }[]
  /** Places along x that belong to a setting and can be moved. */
  handles?: Handle[]
  /** Drawn around: x is an angle from the top, y the distance from the middle. */
  polar?: true
  /** Values at places of a plane, in place of curves. */
  field?: PlaneField
}

export interface Handle {
  /** In the settings: “zeroStart.0”, “fullTime”. */
  path: string
  label: string
  x: number
}

export interface PlaneField {
  label: string
  kind: Kind
  x: number[]
  y: number[]
  value: number[]
}

export interface Axis {
  label: string
  kind: Kind
  /** Drawn in decades. */
  log?: true
}

export interface Series {
  name: string
  /** Dotted is predicted, solid is measured: throughout. */
  style: 'measured' | 'predicted' | 'points' | 'fit'
  /** Which of several alike, from 0. */
  of?: number
  /** A predicted curve: the configuration that it speaks of, as the record calls it; empty where there is one. */
  config?: string
  x: (number | null)[]
  y: (number | null)[]
}

const MOST_POINTS = 1500

/**
 * A curve by as many points as can be seen; of what lies between two of them the least and the most stay;
 * gaps are null.
 */
export function thinned(x: Float64Array, y: Float64Array, most = MOST_POINTS): Pick<Series, 'x' | 'y'> {
  const n = Math.min(x.length, y.length)
  const cell = (v: number) => (Number.isNaN(v) ? null : v)
  if (n <= most) return { x: Array.from(x.subarray(0, n), cell), y: Array.from(y.subarray(0, n), cell) }
  const bins = most / 2
  const points: { x: (number | null)[]; y: (number | null)[] } = { x: [], y: [] }
  const add = (i: number) => {
    points.x.push(cell(x[i]!))
    points.y.push(cell(y[i]!))
  }
  for (let b = 0; b < bins; b++) {
    const [from, to] = [Math.floor((b * n) / bins), Math.floor(((b + 1) * n) / bins)]
    let [low, high] = [from, from]
    for (let i = from + 1; i < to; i++) {
      // What is compared with a gap takes its place.
      if (!(y[i]! >= y[low]!)) low = Number.isNaN(y[i]!) ? low : i
      if (!(y[i]! <= y[high]!)) high = Number.isNaN(y[i]!) ? high : i
    }
    add(Math.min(low, high))
    if (low !== high) add(Math.max(low, high))
  }
  return points
}

/** A zero at the start as a figure over time shows it: a band between two handles; nothing where none is set. */
export const zeroMarks = (
  window: readonly [number, number] | undefined,
): { bands: NonNullable<Figure['bands']>; handles: Handle[] } => ({
  bands: window ? [{ from: window[0], to: window[1], label: 'zero' }] : [],
  handles: handlesOf('zeroStart', 'Zero', window),
})

/** Both ends of a window as handles. */
export const handlesOf = (path: string, label: string, window: readonly [number, number] | undefined): Handle[] =>
  window ? window.map((x, i) => ({ path: `${path}.${i}`, label: `${label}, ${i === 0 ? 'from' : 'to'}`, x })) : []
