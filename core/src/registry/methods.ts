import type { AnyFamily } from '../family/contract'
import type { Calculation } from '../method/calculation'
import { beam } from '../calc/strength/beam'
import { signalButterworth, signalChannelClass } from '../calc/signal/signal-filter'
import { signalShockResponse, signalWelch } from '../calc/signal/signal-spectra'
import { signalLag, signalSteps } from '../calc/signal/signal-time'
import { estimate } from '../calc/models/estimate'
import { toleranceFactor } from '../calc/statistics/tolerance-factor'
import { uncertainty } from '../calc/statistics/uncertainty'
import { storedEnergy } from '../calc/planning/stored-energy'
import { bagPlan } from '../calc/planning/bag-plan'
import { barSpecimen } from '../calc/strength/bar-specimen'
import { bladder } from '../calc/planning/bladder'
import { camera, dataVolume } from '../calc/planning/camera'
import { correlate } from '../calc/models/correlate'
import { creepLife } from '../calc/strength/creep-life'
import { crushSize, crushTune } from '../calc/strength/crush-size'
import { descentPlan } from '../calc/planning/descent-plan'
import { driveChain } from '../calc/planning/drive-chain'
import { dropPlan } from '../calc/planning/drop-plan'
import { elementProperties } from '../calc/models/element-properties'
import { endPull } from '../calc/planning/end-pull'
import { fieldWaves } from '../calc/models/field-waves'
import { gLimit } from '../calc/planning/g-limit'
import { hypotheses } from '../calc/models/hypotheses'
import { knockdown } from '../calc/strength/knockdown'
import { massProperties } from '../calc/planning/mass-properties'
import { materialIndex } from '../calc/strength/material-index'
import { scaleBurst } from '../calc/strength/scale-burst'
import { schedule } from '../calc/planning/schedule'
import { similitude } from '../calc/planning/similitude'
import { stationPlan } from '../calc/planning/station-plan'
import { sweepRate, vibrationSpec } from '../calc/planning/vibration-spec'
import { tankPlan } from '../calc/planning/tank-plan'
import { trialMatrix } from '../calc/statistics/trial-matrix'
import { bar } from '../families/bar/index'
import { buckling } from '../families/buckling/index'
import { burst } from '../families/burst/index'
import { coupon } from '../families/coupon/index'
import { crush } from '../families/crush/index'
import { descent } from '../families/descent/index'
import { drop } from '../families/drop/index'
import { flow } from '../families/flow/index'
import { pull } from '../families/pull/index'
import { spin } from '../families/spin/index'
import { staticLoad } from '../families/static/index'
import { thermal } from '../families/thermal/index'
import { torque } from '../families/torque/index'
import { transducer } from '../families/transducer/index'
import { vibration } from '../families/vibration/index'

const byId = <T extends { id: string }>(list: T[]): Record<string, T | undefined> =>
  Object.fromEntries(list.map(m => [m.id, m]))

export const familyList = [
  staticLoad,
  pull,
  burst,
  crush,
  drop,
  descent,
  flow,
  spin,
  thermal,
  torque,
  vibration,
  buckling,
  bar,
  transducer,
  coupon,
] as unknown as AnyFamily[]
/** The registry forgets which calculation's settings are whose; each gets back what its own schema parsed. */
export const calcList = [
  beam,
  storedEnergy,
  bladder,
  bagPlan,
  stationPlan,
  endPull,
  gLimit,
  scaleBurst,
  creepLife,
  crushSize,
  crushTune,
  dropPlan,
  descentPlan,
  barSpecimen,
  similitude,
  driveChain,
  vibrationSpec,
  sweepRate,
  massProperties,
  knockdown,
  fieldWaves,
  trialMatrix,
  tankPlan,
  elementProperties,
  camera,
  dataVolume,
  materialIndex,
  schedule,
  correlate,
  hypotheses,
  signalButterworth,
  signalChannelClass,
  signalWelch,
  signalShockResponse,
  signalLag,
  signalSteps,
  toleranceFactor,
  uncertainty,
  estimate,
] as unknown as Calculation[]

export const families = byId(familyList)
export const calcs = byId(calcList)
