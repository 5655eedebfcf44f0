import type { PredictedCurve, PredictedValue } from '../method/prediction'
import type { Kind } from '../quantity/index'
import type { DataView } from './acquisition'
import type { CameraView } from './cameras'
import type { ChannelView } from './channels'
import type { Finding } from './finding'
import type { HazardView } from './hazards'
import type { LadderRung } from './ladder'
import type { LoadingKind } from './loading/index'
import type { LoadingView } from './loading/loading'
import type { MovementView } from './movement'
import type { RestraintView } from './restraint'
import type { SimilitudeRow } from './similar'

/* What a family declares beyond its reduction, so that the six stages run without naming it. All values SI. */

export interface RungView extends LadderRung {
  isZero: boolean
  /** s from the start of the run, when the hold begins. */
  start: number
  /** Of what is commanded on the way there, a second. */
  rate: number
  /** Of the channel that is read against the ladder; null where nothing says. */
  expectedReading: number | null
  /** Names of channels that are taken off after it. */
  takeOff: string[]
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
  /** What calculates them; empty where nothing does. */
  predictedBy: string
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
