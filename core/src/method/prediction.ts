import type { Kind } from '../quantity/index'

export interface PredictedValue {
  quantity: string
  value: number
  u: number
}

export interface CurveOutline {
  title: string
  x: { label: string; kind: Kind }
  y: { label: string; kind: Kind }
}

/** A curve as it was pasted, SI: `x` and `y` of one of the family's curves. */
export interface PredictedCurve {
  x: number[]
  y: number[]
}
