import type { z } from 'zod'
import type { FamilySizing } from '../advise/ofFamily'
import type { Kind } from '../quantity/index'
import type { CurveOutline } from '../families/catalogue'
import type { PredictedCurve } from '../register/predictions'
import type { CameraView } from '../plan/cameras'
import type { ChannelView } from '../plan/channels'
import type { DataView } from '../plan/acquisition'
import type { Finding } from '../plan/finding'
import type { HazardView } from '../plan/hazards'
import type { LadderRung } from '../plan/ladder'
import type { LoadingKind } from '../plan/loading/index'
import type { LoadingView } from '../plan/loading/loading'
import type { ArticleModel } from '../plan/model'
import type { MovementView } from '../plan/movement'
import type { Planning } from '../plan/planning'
import type { RestraintView } from '../plan/restraint'
import type { SimilitudeRow } from '../plan/similar'
import type { Specimen, SpecimenMemory } from '../rig/specimen'

/* What a family declares beyond its reduction, so that the six stages run without naming it. All values SI. */

export interface RungView extends LadderRung {
  isZero: boolean
  /** s from the start of the run, when the hold begins. */
  start: number
  /** Of what is commanded on the way there, a second. */
  rate: number
  /** Of the channel that is read against the ladder; null where nothing says. */
  expectedReading: number | null
}

export interface PredictedValue {
  quantity: string
  value: number
  u: number
}

/** Everything that follows from a plan's numbers. */
export interface PlanView {
  rungs: RungView[]
  /** Index of the highest. */
  top: number
  /** Kind and name of what the ladder commands and of what is read against it. */
  commanded: { role: string; kind: Kind; label: string }
  read: { role: string; kind: Kind }
  maxTarget: number
  designTarget: number
  duration: number
  loading: LoadingView & { kind: LoadingKind }
  channels: ChannelView[]
  data: DataView
  cameras: CameraView[]
  movement: MovementView | null
  restraint: RestraintView | null
  similitude: SimilitudeRow[]
  hazards: HazardView[]
  /** What will not work, or wants a second look. */
  findings: Finding[]
  storedEnergy: number
  standoff: number
  caution: string
  predictions: PredictedValue[]
  /** Curves of the calculation, by the family's names for them. */
  curves: Record<string, PredictedCurve>
  /** Reading expected per unit commanded: the dotted line of the run and of the curve. */
  expectedSlope: number
  failure: { place: number; mode: string; at: number } | null
  /** Deflected shape at the top rung; empty where nothing spans. */
  shape: { x: number; deflection: number }[]
  mass: number | null
  /** Of the channels, in the campaign's currency. */
  cost: number
}

export interface SensorDue {
  name: string
  calibrationDue: string | null
  state?: 'in-use' | 'suspect' | 'retired'
  /** A reading beyond full scale since the last calibration: how far, as a share of full scale, and in which test. */
  overRanged?: { share: number; test: string } | null
}

export interface Stages<P extends z.ZodType, A extends z.ZodType, Truth, Memory extends SpecimenMemory> {
  /** What its calculation reads of an article; without one its revisions hold free facts alone. */
  article?: A
  /** Curves that predictions may be given as, by the figure in which they stand. */
  curves: Record<string, CurveOutline>
  plan: P
  planning: Planning<z.output<P>>
  /** What its calculation knows of the article as it is planned. */
  model?(plan: z.output<P>, article: z.output<A>): ArticleModel
  /** The physics of its article in the stand-in for a rig. */
  specimen: Specimen<z.output<P>, z.output<A>, Truth, Memory>
  /** What a held rung says beyond its channels' means, while it runs; by the roles, zeros taken off. */
  pointOf?(means: Readonly<Record<string, number>>, plan: z.output<P>): { label: string; kind: Kind; value: number }[]
  /** Which sizes move its results, and how; without it changes are not sized. */
  sizing?: FamilySizing<z.output<P>, z.output<A>>
}
