import type { PredictedCurve } from '../method/prediction'
import type { PredictedValue } from '../method/prediction'
import type { Contribution } from '../uncertainty/coverage'
import type { SensorSpecification } from '../uncertainty/sensor'
import type { PlanChannel } from './channels'
import type { Finding } from './finding'

/* What a family's calculation knows of its article, as planning asks it. All SI. */

/** Force across a span at a place along it, N downward at m from its start. */
export interface PointLoad {
  x: number
  force: number
}

/** A span as it bends under loads: m, rad, N·m, N; strain of the outer fibre. */
export interface BentSpan {
  /** It bends so far that its deflections are no longer in proportion to the load. */
  isFar?: boolean
  at(x: number): { deflection: number; slope: number; moment: number; shear: number; strain: number }
}

export interface SpanModel {
  length: number
  support: 'cantilever' | 'simple'
  /** Half of the section's depth at x. */
  halfDepth(x: number): number
  bend(loads: readonly PointLoad[]): BentSpan
  /** Total load, shared out like these loads, at which the first stress reaches its strength; where and how. */
  failureOf(loads: readonly PointLoad[]): { load: number; place: number; mode: string }
}

/** One moment of a ladder: what is commanded and what lies where on the article because of it. */
export interface Loaded {
  target: number
  loads: readonly PointLoad[]
}

export interface ArticleModel {
  span: SpanModel | null
  mass: number | null
  /** Reading expected of a channel; null where the calculation has none. */
  reading(channel: PlanChannel, now: Loaded): number | null
  /** Where and how it is expected to end. */
  failure: { place: number; mode: string; at: number } | null
  /** What calculates, as it stands beside what it predicts. */
  source: string
  predictions: PredictedValue[]
  curves: Record<string, PredictedCurve>
  /** What is to be known of the set-up because of it. */
  findings?: readonly Finding[]
  /** Energy that the bent, wound or stretched article holds, J. */
  energyAt(now: Loaded): number
  /**
   * Budget of a result before it is measured, from the sensors by role; null where a sensor is missing or the result is
   * not forecast.
   */
  budgetOf(
    quantity: string,
    value: number,
    sensors: Readonly<Record<string, SensorSpecification | undefined>>,
  ): Contribution[] | null
}
