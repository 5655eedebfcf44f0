import type { AnyFamily, Calculation } from './method/define'
import { beam } from './calc/beam'
import { signalButterworth, signalChannelClass } from './calc/signal-filter'
import { signalShockResponse, signalWelch } from './calc/signal-spectra'
import { signalLag, signalSteps } from './calc/signal-time'
import { estimate } from './calc/estimate'
import { toleranceFactor } from './calc/tolerance-factor'
import { uncertainty } from './calc/uncertainty'
import { storedEnergy } from './calc/stored-energy'
import { bagPlan } from './calc/bag-plan'
import { barSpecimen } from './calc/bar-specimen'
import { bladder } from './calc/bladder'
import { camera, dataVolume } from './calc/camera'
import { correlate } from './calc/correlate'
import { creepLife } from './calc/creep-life'
import { crushSize, crushTune } from './calc/crush-size'
import { descentPlan } from './calc/descent-plan'
import { driveChain } from './calc/drive-chain'
import { dropPlan } from './calc/drop-plan'
import { elementProperties } from './calc/element-properties'
import { endPull } from './calc/end-pull'
import { fieldWaves } from './calc/field-waves'
import { gLimit } from './calc/g-limit'
import { hypotheses } from './calc/hypotheses'
import { knockdown } from './calc/knockdown'
import { massProperties } from './calc/mass-properties'
import { materialIndex } from './calc/material-index'
import { scaleBurst } from './calc/scale-burst'
import { schedule } from './calc/schedule'
import { similitude } from './calc/similitude'
import { stationPlan } from './calc/station-plan'
import { sweepRate, vibrationSpec } from './calc/vibration-spec'
import { tankPlan } from './calc/tank-plan'
import { trialMatrix } from './calc/trial-matrix'
import { bar } from './families/bar/index'
import { buckling } from './families/buckling/index'
import { burst } from './families/burst/index'
import { coupon } from './families/coupon/index'
import { crush } from './families/crush/index'
import { descent } from './families/descent/index'
import { drop } from './families/drop/index'
import { flow } from './families/flow/index'
import { pull } from './families/pull/index'
import { spin } from './families/spin/index'
import { staticLoad } from './families/static/index'
import { thermal } from './families/thermal/index'
import { torque } from './families/torque/index'
import { transducer } from './families/transducer/index'
import { vibration } from './families/vibration/index'

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
