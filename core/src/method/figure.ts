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
}

export interface Axis {
  label: string
  kind: Kind
}

export interface Series {
  name: string
  /** Dotted is predicted, solid is measured: throughout. */
  style: 'measured' | 'predicted' | 'points' | 'fit'
  x: (number | null)[]
  y: (number | null)[]
}
