import type { LineFit } from '../../statistics/line'

/** What the static results are made of; the uncertainty budget reads it too. All SI, zeroed. */
export interface StaticAnalysis {
  maxLoad: number
  deflectionAtDesign: number | null
  /** Null where too little was read to fit a line. */
  fit: (LineFit & { loadSpan: number; deflectionSpan: number }) | null
  nonlinearity: number | null
  /** Means of deflection in the zero windows, with their standard errors. */
  zeroStart: { mean: number; error: number } | null
  zeroEnd: { mean: number; error: number } | null
  largestDeflection: number
  /** Noise of a single reading in the first zero window. */
  loadNoise: number
  deflectionNoise: number
}
